import { expect, test } from "vitest";
import type { ListLine } from "@amigo/contract/lists";
import { filterLists } from "./filterLists";

function list(part: Partial<ListLine>): ListLine {
  return {
    id: "l",
    key: "1:class:wire walk",
    title: "Wire Walk, guardians",
    name: "ml-wire-parents-2627",
    site: "Millyard",
    recipe: "Guardians",
    leads: ["Pavel Orlo"],
    state: "open",
    members: 8,
    joins: 0,
    leaves: 0,
    apart: false,
    ...part,
  } as ListLine;
}

const LISTS = [
  list({ id: "wire" }),
  list({ id: "closed", title: "Trapeze Two, guardians", name: "ml-trap", state: "closed" }),
  list({ id: "apart", title: "Clowning", name: "hb-clown", site: "Harbour", apart: true }),
  list({
    id: "single",
    title: "Costume helpers",
    name: "costumes",
    recipe: "",
    leads: ["Ína Berg"],
  }),
];

test.each([
  ["", "", ["wire", "closed", "apart", "single"]],
  ["wire", "", ["wire"]],
  ["orlo guard", "", ["wire", "closed", "apart"]],
  ["parents", "", ["wire"]],
  ["ina", "", ["single"]],
  ["har", "", ["apart"]],
  ["ire", "", []],
  ["", "open", ["wire", "apart", "single"]],
  ["", "closed", ["closed"]],
  ["", "apart", ["apart"]],
  ["", "single", ["single"]],
  ["wire", "closed", []],
])("%j among %j", (q, show, ids) => {
  expect(filterLists(LISTS, { q, show }).map(({ id }) => id)).toEqual(ids);
});
