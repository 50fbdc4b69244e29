import { fold } from "@amigo/core/text/fold";
import type { ListLine } from "@amigo/contract/lists";

/** What narrows the table of all lists: words that begin words of a list, and which lists are shown. */
export interface ListFilter {
  q: string;
  show: string;
}

/** Returns the lists that a filter leaves. */
export function filterLists(lists: readonly ListLine[], { q, show }: ListFilter): ListLine[] {
  const words = fold(q)
    .split(" ")
    .filter((word) => word !== "");
  return lists.filter((list) => isShown(list, show) && hasWords(list, words));
}

function isShown({ state, apart, recipe }: ListLine, show: string): boolean {
  switch (show) {
    case "open":
      return state === "open";
    case "closed":
      return state !== "open";
    case "apart":
      return apart;
    case "single":
      return recipe === "";
    default:
      return true;
  }
}

function hasWords(
  { title, name, site, recipe, leads }: ListLine,
  words: readonly string[],
): boolean {
  const text = `${title} ${name.replace(/[.-]/g, " ")} ${site} ${recipe} ${leads.join(" ")}`;
  const pieces = fold(text).split(" ");
  return words.every((word) => pieces.some((piece) => piece.startsWith(word)));
}
