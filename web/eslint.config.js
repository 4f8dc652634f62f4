import js from "@eslint/js";
import { readFileSync } from "node:fs";
import tseslint from "typescript-eslint";

// Functions longer than this are split by what they draw. Files that still have one stand in the list with their longest: a number
// there may only become smaller, and a file leaves the list when it reaches the limit.
const LONGEST_FUNCTION = 120;
const stillLonger = JSON.parse(readFileSync(new URL("./long-functions.json", import.meta.url), "utf8"));
const lines = (max) => ({ "max-lines-per-function": ["error", { max, skipComments: true, skipBlankLines: true }] });

// What belongs to the job comes from the server: a screen neither counts days nor knows a phase or a kind by name.
const notInScreens = [
  { selector: "CallExpression[callee.property.name=/^(setDate|getDate|setUTCDate|getUTCDate|setMonth|getDay)$/]", message: "Days are counted by the server." },
  { selector: "BinaryExpression[operator='-'] > NewExpression[callee.name='Date']", message: "Days are counted by the server." },
  {
    selector: "Literal[value=/^(base|strength_speed|speed_strength|taper|in_season|max_strength|velocity_max|one_rm|technical_max)$/]",
    message: "Phases and kinds are named by the server: ask for what is meant.",
  },
];

// A page that has been read stays, with what is typed in it, when reading it again fails: only what was never read is "failed".
const keepWhatWasRead = { selector: "MemberExpression[property.name='isError']", message: "Ask isLoadingError: what was read stays on the page." };

// What needs the types, and what React asks of its components, is looked at by oxlint, in a tenth of the time: .oxlintrc.json. Here
// stands what is this project's own.
export default tseslint.config(
  { ignores: ["dist", "src/api/schema.d.ts", "eslint.config.js"] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  { rules: lines(LONGEST_FUNCTION) },
  { files: ["src/**/*.test.ts"], rules: { "max-lines-per-function": "off" } },
  { files: ["src/**"], rules: { "no-restricted-syntax": ["error", keepWhatWasRead] } },
  { files: ["src/screens/**"], rules: { "no-restricted-syntax": ["error", keepWhatWasRead, ...notInScreens] } },
  ...Object.entries(stillLonger).map(([file, max]) => ({ files: [file], rules: lines(max) })),
);
