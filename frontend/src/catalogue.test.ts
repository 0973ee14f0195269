import { expect, test } from "vitest";
import * as codes from "./api/codes";
import { named, word } from "./catalogue";
import * as words from "./words";

test("a code is named out of the house's catalogue", () => {
  expect(named("grade", codes.GRADES)).toMatchObject({ A: "Strong", "not-yet": "Not yet" });
});

test("codes of two words have names too", () => {
  expect(words.PROTECTION_OF_KIND_WORDS["own board"]).toBe("each cell has its own protection board");
});

test("a code without words shows as itself, so that somebody sees it", () => {
  expect(word("grade-Z")).toBe("grade-Z");
});

const tables = Object.entries(words).filter(
  ([name, table]) => /_(WORDS|MEANING|ACTIONS)$/.test(name) && typeof table === "object",
);

test.each(tables)("%s has words for every code", (_, table) => {
  const told = Object.entries(table as Record<string, string>);
  expect(told.length).toBeGreaterThan(1);
  expect(told.filter(([code, name]) => !name || name.endsWith(`-${code.replaceAll(" ", "-")}`))).toEqual([]);
});
