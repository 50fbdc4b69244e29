import { sql } from "drizzle-orm";
import { JUNO, startTestHouse } from "@amigo/server/testing/testHouse";
import { provenOpening } from "@amigo/server/forms/opened";

const ANSWERS = 4000;
const AT_ONCE = 40;
const WANTED = 200;

/** Answers a second to a sign-up form over HTTP, each kept and its mail queued, beside fetching the form's page as often in the same run. */
export async function measureForms(): Promise<void> {
  const house = await startTestHouse({ roles: "web", settings: { AMIGO_FORM_PER_MINUTE: "1000000" } });
  const juno = await house.signIn(JUNO);
  await house.readLines(juno, ["Surname,First name,Class,Parent 1,Email 1", "Holm,Una,Wire Walk,Ana Holm,ana@lettr.example"], { name: "Roster" });
  await house.step(juno);
  const words = [{ language: "en", title: "Sign up", intro: "", consent: "", labels: {}, questions: [] }];
  await juno.ask("POST", "/api/forms", { slug: "bench", mode: "ask", content: { parts: ["class"], cohorts: [], questions: [], unknownChild: "ask", opensOn: "", closesOn: "", words } });
  const begun = provenOpening(house.amigo.context.dkim.pem, Date.now() - 60_000);
  const answer = (at: number): RequestInit => ({ method: "POST", body: new URLSearchParams({ begun, language: "en", given: `Child ${at}`, family: "Holm", class: "Wire Walk", name: `Guardian ${at}`, address: `guardian${at}@oakmail.example` }) });
  const run = async (path: string, many: number, init: (at: number) => RequestInit): Promise<{ rate: number; failed: number }> => {
    let next = 0;
    let failed = 0;
    const began = performance.now();
    await Promise.all(Array.from({ length: AT_ONCE }, async () => {
      while (next < many) {
        const response = await fetch(`${house.url}${path}`, init(next++));
        await response.arrayBuffer();
        if (response.status !== 200) failed++;
      }
    }));
    return { rate: (many * 1000) / (performance.now() - began), failed };
  };
  await run("/f/bench", 200, () => ({}));
  const page = await run("/f/bench", ANSWERS, () => ({}));
  const taken = await run("/f/bench", ANSWERS, answer);
  const { rows } = await house.amigo.context.db.execute<{ count: number }>(sql`select count(*)::int as count from form_answer`);
  console.log(`\n${ANSWERS.toLocaleString("en-GB")} answers to a sign-up form, ${AT_ONCE} at a time, client and server on this machine`);
  console.log(`  the form's page, fetched     ${page.rate.toFixed(0).padStart(6)} a second`);
  console.log(`  answers taken                ${taken.rate.toFixed(0).padStart(6)} a second   ratio ${(taken.rate / page.rate).toFixed(2)}   ${taken.failed} failed, ${rows[0]?.count ?? 0} kept; wanted ${WANTED} a second`);
  await house.close();
}
