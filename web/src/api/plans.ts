/** This page and the plans it has read: what is sent with every change, and the question when somebody else was quicker. */
import { keepPlans } from "../logic/plans";
import type { Problem } from "./problem";

type Answer = "mine" | "theirs";

export const PLAN = "Jarvok-Plan";
export const SEEN = "Jarvok-Seen";
export const PAGE = "Jarvok-Page";
export const PAGE_ID = Array.from({ length: 12 }, () => Math.floor(Math.random() * 36).toString(36)).join("");

export const plans = keepPlans();

export interface Question {
  problem: Problem;
  answer: (answer: Answer) => void;
}

let asked: Question | null = null;
const watchers = new Set<() => void>();

function put(question: Question | null): void {
  asked = question;
  for (const tell of watchers) tell();
}

/** Whose change counts, where two people changed one plan: asked one at a time. */
export const whose = {
  ask: (problem: Problem): Promise<Answer> => {
    return new Promise((resolve) => {
      asked?.answer("theirs");
      put({
        problem,
        answer: (answer) => {
          put(null);
          if (answer === "theirs") plans.nothingTyped();
          resolve(answer);
        },
      });
    });
  },
  watch: (tell: () => void): (() => void) => {
    watchers.add(tell);
    return () => watchers.delete(tell);
  },
  asked: () => asked,
};
