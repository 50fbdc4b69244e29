import { createElement, Fragment, type ReactNode } from "react";
import { textOf, type TextId } from "./t";

type Chunks = (chunks: ReactNode[]) => ReactNode;

/**
 * A text of the interface with elements in it. Each further property fills the place of its name; a function draws what
 * stands between the tags of its name.
 */
export function Rich({
  id,
  ...values
}: { id: TextId } & Readonly<Record<string, ReactNode | Chunks>>): ReactNode {
  return createElement(Fragment, null, ...textOf(id).fill<ReactNode>(values));
}
