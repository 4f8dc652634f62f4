import { matchPath } from "react-router";
import { describe, expect, it } from "vitest";

import app from "../App.tsx?raw";
import { HELP, HELP_OF_ONES_OWN } from "./help";

const [all = "", own = ""] = app.split("const OWN_SCREENS");
const pathsIn = (text: string) => [...text.matchAll(/^ {2}\["([^"]*)", "/gm)].map((m) => `/${m[1]}`);
const paths = pathsIn(all);

describe("the help of a page", () => {
  it("is there for every screen, in at most two short sentences", () => {
    expect(paths.length).toBeGreaterThan(30);
    for (const path of paths) {
      const words = HELP.find(([pattern]) => matchPath(pattern, path.replace(/\/:\w+\?/, "")))?.[1];
      expect(words, path).toBeTruthy();
      expect(words?.length).toBeLessThan(140);
    }
  });
  it("speaks to an athlete of their own pages", () => {
    expect(pathsIn(own)).toContain("/session/:day/:key");
    for (const path of pathsIn(own).filter((p) => !p.startsWith("/floor"))) {
      expect(HELP_OF_ONES_OWN.find(([pattern]) => matchPath(pattern, path))?.[1], path).toBeTruthy();
    }
  });
  it("is the page’s own", () => {
    const found = (path: string) => HELP.find(([pattern]) => matchPath(pattern, path))?.[1];
    expect(found("/athletes/7/session/2026-11-24/A/squad")).toContain("print");
    expect(found("/athletes/7/session/2026-11-24/A")).toContain("margin");
    expect(found("/room/1/racks/2")).toContain("rack");
    expect(found("/room/1")).toContain("here");
  });
});
