import { createContext, use } from "react";
import type { Me } from "@amigo/contract/accounts";

export const MeContext = createContext<Me | undefined>(undefined);

/** Who is signed in. Only within the shell. */
export function useMe(): Me {
  const me = use(MeContext);
  if (me === undefined) throw new Error("nobody is signed in here");
  return me;
}
