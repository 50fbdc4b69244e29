import { sql } from "drizzle-orm";
import fc from "fast-check";
import { afterAll, beforeAll, expect, test } from "vitest";
import { startTestHouse, type TestHouse } from "../testing/testHouse";
import { countReachByWeek } from "./queries";

let house: TestHouse;
beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
});
afterAll(() => house.close());

const DAY = 86_400_000;

/** From how many days ago until how many days ago something held; undefined until now. */
type Times = readonly [from: number, until: number | undefined];

interface School {
  students: Times[];
  /** Between a student and a guardian. */
  ties: { student: number; guardian: number; times: Times }[];
  addresses: { guardian: number; times: Times; stopped: number | undefined }[];
}

/** Never at the very moment at which a week is counted. */
const daysAgo = fc.integer({ min: 0, max: 100 }).map((days) => days + 0.5);
const times: fc.Arbitrary<Times> = fc
  .tuple(daysAgo, fc.option(daysAgo, { nil: undefined }))
  .map(([one, other]) =>
    other === undefined ? [one, undefined] : [Math.max(one, other), Math.min(one, other)],
  );
const who = fc.nat(3);
const school: fc.Arbitrary<School> = fc.record({
  students: fc.array(times, { maxLength: 6 }),
  ties: fc.uniqueArray(fc.record({ student: who, guardian: who, times }), {
    maxLength: 8,
    selector: ({ student, guardian }) => `${student} ${guardian}`,
  }),
  addresses: fc.array(
    fc.record({ guardian: who, times, stopped: fc.option(daysAgo, { nil: undefined }) }),
    { maxLength: 6 },
  ),
});

function held([from, until]: Times, ago: number): boolean {
  return from >= ago && (until === undefined || until < ago);
}

/** What the count of a week means, student by student. */
function plainly({ students, ties, addresses }: School, ago: number) {
  const enrolled = new Set(students.flatMap((one, at) => (held(one, ago) ? [at % 4] : [])));
  const works = (guardian: number): boolean =>
    addresses.some(
      (one) =>
        one.guardian === guardian &&
        held(one.times, ago) &&
        (one.stopped === undefined || one.stopped < ago),
    );
  const reached = [...enrolled].filter((student) =>
    ties.some((tie) => tie.student === student && held(tie.times, ago) && works(tie.guardian)),
  );
  return { students: enrolled.size, reached: reached.length };
}

test("the students of past weeks and who of them could be reached are those of then", async () => {
  const { db } = house.amigo.context;
  const {
    rows: [season],
  } = await db.execute<{ id: number }>(
    sql`insert into season (label) values ('1999-00') returning id`,
  );
  const id = season?.id ?? 0;
  const now = Date.now();
  const at = (ago: number | undefined): string | null =>
    ago === undefined ? null : new Date(now - ago * DAY).toISOString();
  await fc.assert(
    fc.asyncProperty(school, async (made) => {
      await db.execute(sql`delete from fact where season_id = ${id}`);
      await db.execute(sql`delete from address_trouble`);
      const put = (subject: string, kind: string, ref: string, [from, until]: Times) =>
        db.execute(
          sql`insert into fact (season_id, subject, kind, ref, value, origin, valid_from, valid_until) values (${id}, ${subject}, ${kind}, ${ref}, '""', '{}', ${at(from)}, ${at(until)})`,
        );
      for (const [place, one] of made.students.entries())
        await put(`student ${place % 4}`, "student", String(place), one);
      for (const { student, guardian, times: of } of made.ties)
        await put(`guardian ${guardian}`, "tie", `student ${student}`, of);
      for (const [place, { guardian, times: of, stopped }] of made.addresses.entries()) {
        await put(`guardian ${guardian}`, "address", `a${place}@lettr.example`, of);
        if (stopped !== undefined)
          await db.execute(
            sql`insert into address_trouble (address, state, sort, words, since, last_at) values (${`a${place}@lettr.example`}, 'stopped', 'unknown', '', ${at(stopped)}, now())`,
          );
      }
      const { rows } = await countReachByWeek(db, id, sql``);
      const wanted = Array.from({ length: 12 }, (_, week) => plainly(made, (11 - week) * 7)).filter(
        ({ students }) => students > 0,
      );
      expect(rows.map(({ students, reached }) => ({ students, reached }))).toEqual(wanted);
    }),
    { numRuns: 40 },
  );
});
