import type { postDemoEmpty } from "@amigo/contract/accounts";
import type { Context } from "../context";
import { refuse, Refusal } from "../http/fault";
import type { Answer } from "../http/handler";
import { t } from "../texts/t";
import { emptyDemo } from "./emptyDemo";

/** Starts the demo house over with an empty roster. */
export async function resetDemo({ db, demo }: Context): Promise<Answer<typeof postDemoEmpty>> {
  if (demo === undefined) throw new Refusal(403, "demo/only", t("house.onlyTheDemoHouseCan"));
  refuse(await emptyDemo(db, demo.load));
  return { done: true as const };
}
