import { Refused, refused } from "../refused";
import type { postSource, postReading } from "@amigo/contract/readings";
import { Plan } from "@amigo/contract/sources";
import { type Caller, actorOf } from "../callers/caller";
import type { Context } from "../context";
import { orRefuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { wrongWith } from "../http/route";
import { t } from "../texts/t";
import { fetchFor } from "./keepItself";
import { planFrom } from "./planFrom";
import type { FileToRead } from "./readFile";
import { storeSeen, storeLocation, findSource } from "./queries";

/** Reads all that was posted by the columns that somebody has just settled. */
async function readPostedAgain(
  context: Context,
  id: string,
  file: FileToRead,
  caller: Caller,
  long: Parameters<Context["desk"]["run"]>[2],
) {
  const { desk, db } = context;
  const fetched = await fetchFor(context, "posted", id);
  if (fetched instanceof Refused) return fetched;
  if (!fetched.changed) throw new Error("the answers were not fetched");
  const read = await desk.run(
    "readFile",
    {
      actor: actorOf(caller),
      into: { id },
      file: { ...file, name: fetched.name, bytes: fetched.bytes },
    },
    long,
  );
  if (read instanceof Refused) return read;
  await storeSeen(db, fetched.seen, id);
  return read;
}

/** Makes a source from a file and imports it. */
export async function importNewSource(
  { desk, db }: Context,
  { body, caller, long }: Request<typeof postSource>,
): Promise<Answer<typeof postSource>> {
  const { kind, location } = body;
  const read = orRefuse(
    await desk.run(
      "readFile",
      {
        actor: actorOf(caller),
        into: { name: body.name, kind },
        file: orRefuse(await fileOf(body)),
      },
      long,
    ),
  );
  if (kind === "watched" || kind === "web") await storeLocation(db, location, read.source);
  return read;
}

/** Imports a file into a source. */
export async function importAgain(
  context: Context,
  { params, body, caller, long }: Request<typeof postReading>,
): Promise<Answer<typeof postReading>> {
  const { db, desk } = context;
  const found = await findSource(db, params.id);
  if (found?.kind === "posted")
    return orRefuse(
      await readPostedAgain(context, params.id, orRefuse(await fileOf(body)), caller, long),
    );
  if (found?.kind === "form")
    throw new Refusal(422, "source/of-form", t("sources.theRowsOfThisSource"), "file");
  return orRefuse(
    await desk.run(
      "readFile",
      { actor: actorOf(caller), into: { id: params.id }, file: orRefuse(await fileOf(body)) },
      long,
    ),
  );
}

async function fileOf(body: {
  file: File;
  plan: string;
  written: string;
  whole: "true" | "false" | "";
}): Promise<FileToRead | Refused> {
  let plan: unknown;
  try {
    plan = JSON.parse(body.plan);
  } catch {
    return refused(400, "bad-request", t("sources.planThisIsNoJson"), "plan");
  }
  const parsed = Plan.safeParse(plan);
  if (!parsed.success)
    return refused(
      400,
      "bad-request",
      t("sources.planIsNotRight", {
        fault: wrongWith(parsed.error.issues[0]),
      }),
      "plan",
    );
  return {
    name: body.file.name.slice(0, 200),
    bytes: new Uint8Array(await body.file.arrayBuffer()),
    plan: planFrom(parsed.data),
    writtenAt: body.written === "" ? "" : new Date(body.written).toISOString(),
    ...(body.whole === "" ? {} : { whole: body.whole === "true" }),
  };
}
