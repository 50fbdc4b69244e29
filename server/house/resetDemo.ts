import { type postDemoEmpty } from "@amigo/contract/accounts";
import type { Context } from "../context";
import type { Answer } from "../http/handler";
import { emptyDemo } from "./emptyDemo";

/** Starts the demo house over with an empty roster. */
export async function resetDemo({ db }: Context): Promise<Answer<typeof postDemoEmpty>> {
  const { loadDemo } = await import("@amigo/demo/loadDemo");
  await emptyDemo(db, loadDemo);
  return { done: true as const };
}
