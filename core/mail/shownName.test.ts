import { say } from "@amigo/language/say";
import { describe, expect, test } from "vitest";
import { readsLike } from "../text/sameLooks";
import { shownName, type GuardedName } from "./shownName";

const GUARDED: GuardedName[] = [
  { name: "Juno Abara", is: "coordinator" },
  { name: "Teo Bramwell", is: "lead" },
  { name: "Copperwheel Circus School", is: "house" },
];
const STRANGER = { account: undefined, people: [] };
const shown = (written: string, known = STRANGER as Parameters<typeof shownName>[1]) => {
  const { name, doubt } = shownName(written, known, GUARDED);
  return { name: say(name), doubt: doubt === undefined ? "" : say(doubt) };
};

describe("the name of an address that the house knows", () => {
  test("is the account's, whatever the mail says", () => {
    expect(shown("The Boss", { account: "Ravi Lindqvist", people: ["R. L."] })).toEqual({
      name: "Ravi Lindqvist",
      doubt: "",
    });
  });
  test("is the house's for the one person with it", () => {
    expect(shown("Juno Abara", { account: undefined, people: ["Otto Holm"] }).name).toBe(
      "Otto Holm",
    );
  });
  test("is that of whichever of several writes, and of all where nothing says which", () => {
    const known = { account: undefined, people: ["Ida Holm", "Otto Holm"] };
    expect(shown("holm, OTTO", known).name).toBe("Otto Holm");
    expect(shown("Family office", known).name).toBe("Ida Holm and Otto Holm");
  });
});

describe("the name of an unknown address", () => {
  test.each([["Una Strand"], ["Zoë Ångström"], ["Юрій Коваль"], ["Abara Fruit"], [""]])(
    "%s is shown as it is",
    (name) => expect(shown(name)).toEqual({ name, doubt: "" }),
  );
  test.each([
    ["Juno Abara", "Juno Abara, a coordinator"],
    ["ABARA, Juno", "a coordinator"],
    ["Juno Abara (office)", "a coordinator"],
    ["Jun\u200bo\u00a0 Abara", "a coordinator"],
    ["Јunо Аbаrа", "a coordinator"],
    ["JUNO-ABARA", "a coordinator"],
    ["Ｊuno Ａbara", "a coordinator"],
    ["JunoAbara", "a coordinator"],
    ["Jun0 Abara", "a coordinator"],
    ["Teo Bramweli", "Teo Bramwell, who leads lists"],
    ["Office of Copperwheel Circus School", "your school or club"],
    ["juno.abara@copperwheel.example", "holds an address"],
    ["Juno <juno.abara@copperwheel.example>", "holds an address"],
    ["juno.abara＠copperwheel.example", "holds an address"],
  ])("%s isn't shown, and the reason is said", (name, words) => {
    const { name: left, doubt } = shown(name);
    expect(left).toBe("");
    expect(doubt).toContain(words);
  });
  test("loses what nobody sees", () =>
    expect(shown("\u202eUna\u2069 Str\u00adand").name).toBe("Una Strand"));
});

test("a guarded name of one word is met by that word alone", () => {
  expect(readsLike("Office", "office")).toBe(true);
  expect(readsLike("Office supplies", "Office")).toBe(false);
  expect(readsLike("", "")).toBe(false);
});
