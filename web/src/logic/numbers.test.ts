import { describe, expect, it } from "vitest";

import { typedJumps, typedNumber, typedNumbers, typedSeconds } from "./numbers";

describe("a number as typed", () => {
  it.each([
    ["82.5", 82.5],
    ["82,5", 82.5],
    [" 7 ", 7],
    ["0", 0],
    ["-2", -2],
    [",5", 0.5],
    ["82,", 82],
  ])("%s is %d", (text, value) => expect(typedNumber(text)).toBe(value));
  it.each(["", "   "])("nothing is null, not nought", (text) => expect(typedNumber(text)).toBeNull());
  it.each(["8 2", "1.000,5", "82 kg", "1e3", "--1", "0x10", "Infinity"])("%s is no number", (text) => expect(typedNumber(text)).toBeNaN());
});

it("several numbers keep their commas", () => {
  expect(typedNumbers("31,5 32; 30.25")).toEqual([31.5, 32, 30.25]);
  expect(typedNumbers("  ")).toEqual([]);
  expect(typedNumbers("31 x")).toEqual([31, Number.NaN]);
});

describe("seconds as typed", () => {
  it.each([
    ["6:12", 372],
    ["0:45,5", 45.5],
    ["372", 372],
    ["12,4", 12.4],
  ])("%s is %d s", (text, value) => expect(typedSeconds(text)).toBe(value));
  it("what is no time is none", () => {
    expect(typedSeconds("6:72")).toBeNaN();
    expect(typedSeconds("6 min")).toBeNaN();
    expect(typedSeconds(" ")).toBeNull();
  });
});

describe("jumps as typed", () => {
  it("joins each height with the contact in its place", () =>
    expect(typedJumps("31,5 33", "0.21; 0,19")).toEqual([
      { height_cm: 31.5, contact_s: 0.21 },
      { height_cm: 33, contact_s: 0.19 },
    ]));
  it("takes heights alone, and fewer contacts than heights", () =>
    expect(typedJumps("40 41", "0.2").map((j) => j.contact_s)).toEqual([0.2, null]));
  it("leaves what is no number to be refused in words", () => expect(typedJumps("4o", "")).toEqual([{ height_cm: 0, contact_s: null }]));
});
