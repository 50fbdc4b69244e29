import { fork } from "node:child_process";
import { once } from "node:events";
import { sql } from "drizzle-orm";
import { JUNO, startTestHouse } from "@amigo/server/testing/testHouse";
import { provenOpening } from "@amigo/server/forms/opened";

const ANSWERS = 4000;
const WANTED = 200;

/** Answers a second to a sign-up form over HTTP, each kept and its mail queued, beside fetching the form's page as often in the same run. */
export async function measureForms(): Promise<void> {
  const house = await startTestHouse({
    roles: "web",
    settings: { AMIGO_FORM_PER_MINUTE: "1000000" },
  });
  const juno = await house.signIn(JUNO);
  await house.readLines(
    juno,
    ["Surname,First name,Class,Parent 1,Email 1", "Holm,Una,Wire Walk,Ana Holm,ana@lettr.example"],
    { name: "Roster" },
  );
  await house.step(juno);
  const words = [
    { language: "en", title: "Sign up", intro: "", consent: "", labels: {}, questions: [] },
  ];
  await juno.ask("POST", "/api/forms", {
    slug: "bench",
    mode: "ask",
    content: {
      parts: ["class"],
      cohorts: [],
      questions: [],
      unknownChild: "ask",
      opensOn: "",
      closesOn: "",
      words,
    },
  });
  const client = fork(new URL("./formsClient.ts", import.meta.url), {
    execArgv: ["--import", "tsx"],
  });
  await once(client, "message");
  const proofs = (): string[] =>
    Array.from({ length: ANSWERS }, () =>
      provenOpening(house.amigo.context.houseKey, Date.now() - 60_000),
    );
  const run = async (
    many: number,
    begun: readonly string[],
  ): Promise<{ rate: number; failed: number }> => {
    const answer = once(client, "message");
    client.send({ url: `${house.url}/f/bench`, many, begun });
    return (await answer)[0] as { rate: number; failed: number };
  };
  await run(200, []);
  const page = await run(ANSWERS, []);
  const taken = await run(ANSWERS, proofs());
  client.kill();
  const { rows } = await house.amigo.context.db.execute<{ count: number }>(
    sql`select count(*)::int as count from form_answer`,
  );
  console.log(
    `\n${ANSWERS.toLocaleString("en-GB")} answers to a sign-up form, 40 at a time, the families in a process of their own on this machine`,
  );
  console.log(`  the form's page, fetched     ${page.rate.toFixed(0).padStart(6)} a second`);
  console.log(
    `  answers taken                ${taken.rate.toFixed(0).padStart(6)} a second   ratio ${(taken.rate / page.rate).toFixed(2)}   ${taken.failed} failed, ${rows[0]?.count ?? 0} kept; wanted ${WANTED} a second`,
  );
  await house.close();
}
