import { createElement, Fragment, type ReactNode } from "react";
import { sayerOf, textsOf, type Catalogue, type IdOf, type Written } from "@amigo/language/texts";

type Chunks = (chunks: ReactNode[]) => ReactNode;

/**
 * Returns what says the texts of some features. A page imports its own feature's, so that a browser loads no other texts.
 *
 * @param write returns what fills a place for a value: `plain` where messages of core do, whose words are then loaded, else `plainly`
 * @returns `t`, which returns a text in the reader's language with its places filled (ICU MessageFormat), and `Rich`, an element
 *   that is a text with elements in it: each further property fills the place of its name, and a function draws what stands
 *   between the tags of its name
 */
export function textsFor<Texts extends Catalogue, Value>(
  catalogue: Texts,
  write: (value: Value) => Written,
) {
  const textOf = textsOf(catalogue, "web");
  function Rich({
    id,
    ...values
  }: { id: IdOf<Texts> } & Readonly<Record<string, ReactNode | Chunks>>): ReactNode {
    return createElement(Fragment, null, ...textOf(id).fill<ReactNode>(values));
  }
  return { t: sayerOf(catalogue, "web", write), Rich };
}
