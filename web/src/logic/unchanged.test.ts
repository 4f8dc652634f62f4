import { describe, expect, it } from "vitest";

import { holdAnswers } from "./unchanged";

describe("answers that are held", () => {
  it("are given back under their own mark only", () => {
    const answers = holdAnswers(100);
    expect(answers.markOf("/api/today")).toBeNull();
    answers.hold("/api/today", '"a"', "first");
    expect(answers.markOf("/api/today")).toBe('"a"');
    expect(answers.held("/api/today", '"a"')).toBe("first");
    answers.hold("/api/today", '"b"', "second");
    expect(answers.held("/api/today", '"a"')).toBeNull();
    expect(answers.held("/api/today", '"b"')).toBe("second");
  });

  it("make room for newer ones, what was asked for longest ago first", () => {
    const answers = holdAnswers(10);
    answers.hold("one", "1", "12345");
    answers.hold("two", "2", "12345");
    expect(answers.markOf("one")).toBe("1"); // ten characters fit
    answers.held("one", "1");
    answers.hold("three", "3", "1");
    expect(answers.markOf("two")).toBeNull();
    expect(answers.markOf("one")).toBe("1");
    expect(answers.markOf("three")).toBe("3");
  });

  it("are not held where one alone is too long", () => {
    const answers = holdAnswers(4);
    answers.hold("one", "1", "1234");
    answers.hold("two", "2", "12345");
    expect(answers.markOf("one")).toBe("1");
    expect(answers.markOf("two")).toBeNull();
    answers.hold("one", "3", "12345");
    expect(answers.markOf("one")).toBeNull(); // what it was is not what it is
  });

  it("go when somebody else signs in", () => {
    const answers = holdAnswers(10);
    answers.hold("one", "1", "12345");
    answers.forget();
    expect(answers.markOf("one")).toBeNull();
    answers.hold("two", "2", "1234567890");
    expect(answers.markOf("two")).toBe("2");
  });
});
