import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { say } from "@amigo/language/say";
import { indexFacts } from "../facts/indexFacts";
import { COMPARISONS, type Audience, type Condition, type Spot, type Test } from "./audience";
import { audienceSentence as audienceSentenceUnsaid } from "./audienceSentence";
import { becauseOf as becauseOfUnsaid } from "./becauseOf";
import { belongs } from "./belongs";
import { bindAudience } from "./bindAudience";
import { checkAudience } from "./checkAudience";
import { completeAudience } from "./completeAudience";
import { formatAudience } from "./formatAudience";
import { houseWords } from "./houseWords";
import { parseAudience } from "./parseAudience";
import { whoBelongs } from "./whoBelongs";
import { smallHouse } from "../testing/smallHouse";
import { spoken } from "../testing/spoken";

const audienceSentence = spoken(audienceSentenceUnsaid);
const becauseOf = spoken(becauseOfUnsaid);

const HOUSE = indexFacts(smallHouse());
const WORDS = houseWords(HOUSE, "2026-27");

function parsed(text: string): Audience {
  const answer = parseAudience(text);
  if (!answer.ok) throw new Error(`${text}: ${say(answer.fault.sentence)}`);
  return answer.audience;
}

describe("who belongs", () => {
  test.each([
    ['students in class "Trapeze Two"', ["ida", "wren"]],
    ['students in "trapeze two"', ["ida", "wren"]],
    ['students in team "Night Parade"', ["hana", "ida"]],
    ['guardians of students in "Trapeze Two"', ["halim", "tove"]],
    ['guardians of "Trapeze Two"', ["halim", "tove"]],
    ['guardians of team "Night Parade"', ["halim", "tove"]],
    ['students at "Mill Loft" where level >= 4', ["bram", "ida", "wren"]],
    ['students at site "Mill Loft" where level > 5', ["bram"]],
    ["students of level 4", ["ida"]],
    ['students in "Trapeze Two" in team "Night Parade"', ["ida"]],
    ['students where "stage house" is Copper', ["bram", "ida"]],
    ['students where "stage house" is not copper', ["bram2", "hana", "wren"]],
    ['students where "stage house" is one of Copper, Tin', ["bram", "ida", "wren"]],
    ["students where class contains walk or level < 2", ["bram", "bram2"]],
    ["students where number = CW-3", ["hana"]],
    ["guardians of students such that level is 5", ["tove"]],
    ['guardians of ("Ida Brandt" + students in "Wire Walk")', ["fenna", "halim"]],
    ['coaches of "Trapeze Two"', ["sunniva"]],
    ['coaches at "Mill Loft"', ["petra", "sunniva"]],
    ["coaches of level 2", ["teo"]],
    ["coaches", ["petra", "sunniva", "teo"]],
    ['leads of team "Night Parade"', ["teo"]],
    ["staff", ["odile", "petra", "sunniva", "teo"]],
    ['staff at "Mill Loft"', ["odile", "petra", "sunniva"]],
    [
      'guardians of team "Night Parade" + coaches of team "Night Parade" except "Teo Bramwell"',
      ["halim", "tove"],
    ],
    ['guardians of "Trapeze Two" + "Odile Marchetti"', ["halim", "odile", "tove"]],
    ['students in "Trapeze Two" & students in team "Night Parade"', ["ida"]],
    ['students in season 2026-27 in "Wire Walk"', ["bram"]],
    ['"Bram Quist"', ["bram", "bram2"]],
    ['"Bram Quist" (CW-5)', ["bram2"]],
    ['"Tove Eastlake" (tove@lettr.example)', ["tove"]],
    ['students except (students at "Big Barn" + students of level 10)', ["ida", "wren"]],
  ])("%s", (text, ids) => {
    const audience = parsed(text);
    expect(
      whoBelongs(audience, HOUSE)
        .map(({ person }) => person.id)
        .sort(),
    ).toEqual(ids);
    // By its indexes it finds whom a look at everybody finds, and what is written again means the same.
    expect(
      [...HOUSE.people.values()]
        .filter((person) => belongs(parsed(formatAudience(audience)), person, HOUSE) !== undefined)
        .map(({ id }) => id)
        .sort(),
    ).toEqual(ids);
    expect(
      checkAudience(audience, WORDS, false).filter(({ isAmbiguous }) => isAmbiguous !== true),
    ).toEqual([]);
  });

  test("each is told with the reason", () => {
    const because = (text: string): string[] =>
      whoBelongs(parsed(text), HOUSE)
        .map(({ person, reason }) => `${person.id}: ${becauseOf(reason, HOUSE)}`)
        .sort();
    expect(
      because('guardians of "Trapeze Two" + coaches of "Trapeze Two" + "Odile Marchetti"'),
    ).toEqual([
      "halim: guardian of Ida Brandt",
      "odile: named in the list's audience",
      "sunniva: coach of Trapeze Two",
      "tove: guardian of Wren Eastlake",
    ]);
    expect(
      because('students in "Wire Walk" + leads of "Wire Walk" + staff at "Mill Loft"'),
    ).toEqual([
      "bram: student of Wire Walk",
      "odile: staff",
      "petra: lead of Wire Walk",
      "sunniva: staff",
    ]);
  });

  test('"this" is filled in by a recipe, a class by a class and a team by a team', () => {
    const audience = parsed("guardians of students in this class + coaches of this class");
    const ids = (kind: "class" | "team", name: string): string[] =>
      whoBelongs(bindAudience(audience, { kind, name }), HOUSE)
        .map(({ person }) => person.id)
        .sort();
    expect(ids("class", "Wire Walk")).toEqual(["fenna", "petra"]);
    expect(ids("team", "Night Parade")).toEqual(["halim", "teo", "tove"]);
    expect(whoBelongs(audience, HOUSE)).toEqual([]);
  });
});

describe("texts that are refused", () => {
  test.each([
    ["gardians of students in this class", 0, "guardians"],
    ["guardians students", 10, undefined],
    ["students in this clas", 17, "class"],
    ["students in", 11, undefined],
    ["students in this class and more", 23, "+"],
    ['students in "Trapeze Two', 12, '"Trapeze Two"'],
    ["students where level >", 22, undefined],
    ["students where level above 4", 21, undefined],
    ['students exept "Ida Brandt"', 9, "except"],
    ["(students", 9, ")"],
    ["students +", 10, "students"],
    ["students in class", 17, undefined],
    ["students where level is one 4", 28, undefined],
    ['"Ida Brandt" (CW-1', 18, ")"],
    ["", 0, "students"],
    ["(".repeat(200), 40, undefined],
  ])("%j at %i", (text, at, proposal) => {
    const answer = parseAudience(text);
    expect(answer).toMatchObject({ ok: false, fault: { at } });
    if (answer.ok) return;
    expect(say(answer.fault.sentence)).toMatch(/\.$/);
    expect(answer.fault.proposal).toBe(proposal);
  });

  test.each([
    [
      'students in "Trapeze Forty"',
      /No class, team, committee or site is called "Trapeze Forty"/,
      undefined,
    ],
    ['students in "Trapeze Twoo"', /Did you mean "Trapeze Two"\?/, '"Trapeze Two"'],
    ['students in team "Wire Walk"', /No team is called/, undefined],
    ["students in Trapeze", /Did you mean "Trapeze Two"\?/, '"Trapeze Two"'],
    ["parents of studnets", /is called "studnets"/, "students"],
    ["everyone in Trapeze Two and Wire Walk", /is called "Trapeze Two and Wire Walk"/, undefined],
    ['students at site "Mill Lofft"', /No site/, '"Mill Loft"'],
    ["students where instrument = violin", /No sheet has a column "instrument"/, undefined],
    ["students where levle = 4", /No sheet has a column/, "level"],
    [
      'students where "stage house" >= 3',
      /is a word for some people here, such as "Copper"/,
      undefined,
    ],
    ["students where level >= high", /"high" is a word/, undefined],
    ["students in this class", /only in a recipe/, undefined],
    ["students in season 2025-26", /not the current one/, "season 2026-27"],
    ['"Nobody Known"', /Nobody here/, undefined],
    ['"Ida Brant"', /Did you mean "Ida Brandt"\?/, '"Ida Brandt"'],
    ['"Bram Quist"', /2 people are called/, '"Bram Quist" (CW-4)'],
  ])("%s does not fit the house", (text, sentence, proposal) => {
    const [fault] = checkAudience(parsed(text), WORDS, false);
    expect(say(fault?.sentence)).toMatch(sentence);
    expect(fault?.proposal).toBe(proposal);
  });
});

describe("words that people try", () => {
  test.each([
    ["parents", "guardians of students"],
    ["all the parents", "guardians of students"],
    ["Parents in Trapeze Two", 'guardians of students in "Trapeze Two"'],
    ["parents of Trapeze Two", 'guardians of students in "Trapeze Two"'],
    ["families at Mill Loft", 'guardians of students at "Mill Loft"'],
    ["parents of pupils of level 4", "guardians of students of level 4"],
    ["parents where level >= 4", "guardians of students where level >= 4"],
    ["kids in the team night parade", 'students in team "Night Parade"'],
    ["teachers of  Wire   Walk", 'coaches of "Wire Walk"'],
    [
      "parents in Trapeze Two + coaches of Trapeze Two without Teo Bramwell",
      'guardians of students in "Trapeze Two" + coaches of "Trapeze Two" except "Teo Bramwell"',
    ],
    ["Ida Brandt + Odile Marchetti", '"Ida Brandt" + "Odile Marchetti"'],
    ["everyone", "students + guardians of students + staff"],
    [
      "everybody in Trapeze Two except coaches",
      'students in "Trapeze Two" + guardians of students in "Trapeze Two" + coaches of "Trapeze Two" except coaches',
    ],
  ])("%s is %s", (text, usual) => {
    const ids = (audienceText: string): string[] =>
      whoBelongs(parsed(audienceText), HOUSE)
        .map(({ person }) => person.id)
        .sort();
    expect(ids(text)).toEqual(ids(usual));
    expect(ids(text).length).toBeGreaterThan(0);
    expect(formatAudience(parsed(text)).toLowerCase()).toBe(
      formatAudience(parsed(usual)).toLowerCase(),
    );
    expect(checkAudience(parsed(text), WORDS, false, text)).toEqual([]);
  });

  test("a name without quotes that holds a word of the language is put right as a whole", () => {
    const words = {
      ...WORDS,
      cohorts: [
        ...WORDS.cohorts,
        { name: "Friends of the Ring", kind: "committee" as const, coach: "" },
        { name: "Hoops and Staff", kind: "class" as const, coach: "" },
      ],
    };
    const text = "parents in Friends of the Ring + staff";
    const [fault] = checkAudience(parsed(text), words, false, text);
    expect(fault?.proposal).toBe('"Friends of the Ring"');
    const { at = 0, length = 0, proposal = "" } = fault ?? {};
    const mended = `${text.slice(0, at)}${proposal}${text.slice(at + length)}`;
    expect(mended).toBe('parents in "Friends of the Ring" + staff');
    expect(checkAudience(parsed(mended), words, false, mended)).toEqual([]);
    const simple = "students in Hoops and Staff";
    expect(checkAudience(parsed(simple), words, false, simple)).toEqual([]);
  });

  test("a text of a thousand bare names is judged as fast as it is read", () => {
    const text = `students ${"in a ".repeat(1500)}`;
    expect(checkAudience(parsed(text), WORDS, false, text)).toHaveLength(1500);
  });

  test.each([
    ["students in Trapeze T", '"Trapeze Two"', 12],
    ["students in tra", '"Trapeze Two"', 12],
    ["parents of night ", '"Night Parade"', 11],
    ["staff except teo br", '"Teo Bramwell"', 13],
  ])("%j is completed by the whole name", (text, wanted, from) => {
    const found = completeAudience(text, WORDS).find((audience) => audience.text === wanted);
    expect(found?.from).toBe(from);
  });
});

describe("reading back and completing", () => {
  test.each([
    ['guardians of students in "Trapeze Two"', "The guardians of the students in Trapeze Two."],
    [
      'students at site "Mill Loft" where level >= 4',
      "The students at Mill Loft whose level is at least 4.",
    ],
    [
      'guardians of team "Night Parade" + coaches of team "Night Parade" except "Teo Bramwell"',
      "The guardians of the students in the team Night Parade and the coaches of the team Night Parade, but not Teo Bramwell.",
    ],
    ["staff", "All staff."],
    [
      'students where "stage house" is one of Copper, Tin and level is not 2',
      "The students whose stage house is one of Copper or Tin and level is not 2.",
    ],
    [
      'guardians of (students in "Wire Walk" & students of level 4)',
      "The guardians of anybody who is one of these: people who are among the students in Wire Walk and also among the students of level 4.",
    ],
  ])("%s", (text, sentence) => {
    expect(audienceSentence(parsed(text))).toBe(sentence);
  });

  test.each([
    ["", ["students", "guardians", "coaches"]],
    ["gu", ["guardians"]],
    ["guardians ", ["of"]],
    ['students in "tr', ['"Trapeze Two"']],
    ["students in team ", ['"Night Parade"']],
    ["students at s", ["site"]],
    ['students at "mill', ['"Mill Loft"']],
    ["students where st", ['"Stage house"']],
    ['students where "Stage house" is C', ['"Copper"']],
    ["students where level ", ["is", "contains"]],
    ['staff except "teo', ['"Teo Bramwell"']],
    ['staff + "quist', ['"Bram Quist" (CW-4)', '"Bram Quist" (CW-5)', '"Fenna Quist"']],
  ])("after %j comes %j", (text, wanted) => {
    const found = completeAudience(text, WORDS);
    expect(found.map((completion) => completion.text)).toEqual(expect.arrayContaining(wanted));
    // Taking one keeps the text free of a fault before its end.
    for (const { text: completion, from } of found) {
      const longer = parseAudience(`${text.slice(0, from)}${completion}`);
      if (!longer.ok) expect(longer.fault.at).toBeGreaterThanOrEqual(from + completion.length);
    }
  });
});

const name = fc.stringMatching(/^[A-Za-z][A-Za-z &'-]{0,12}[a-z]$/);
const spot: fc.Arbitrary<Spot> = fc.oneof(
  fc.record({
    at: fc.constant(0),
    kind: fc.constantFrom("class", "team", "committee", "site", "level", "season"),
    name,
  }),
  fc.record({ at: fc.constant(0), kind: fc.constant(undefined), name }),
  fc.record({
    at: fc.constant(0),
    kind: fc.constantFrom("class", "team"),
    name: fc.constant(undefined),
  }),
);
const single: fc.Arbitrary<Test> = fc
  .tuple(
    name,
    fc.constantFrom(...COMPARISONS),
    fc.array(fc.oneof(name, fc.nat(99).map(String)), { minLength: 1, maxLength: 3 }),
  )
  .map(([column, comparison, values]) => ({
    op: "test",
    at: 0,
    column,
    comparison,
    values: comparison === "is one of" ? values : values.slice(0, 1),
  }));
const chain = (op: "and" | "or", parts: Condition[]): Condition =>
  parts.reduce((left, right) => ({ op, left, right }));
const condition: fc.Arbitrary<Condition> = fc
  .array(
    fc.array(single, { minLength: 1, maxLength: 2 }).map((tests) => chain("and", tests)),
    { minLength: 1, maxLength: 2 },
  )
  .map((parts) => chain("or", parts));
const { audience } = fc.letrec<{ audience: Audience }>((tie) => ({
  audience: fc.oneof(
    { maxDepth: 4 },
    fc.record({
      op: fc.constant("group" as const),
      at: fc.constant(0),
      who: fc.constantFrom(
        "students" as const,
        "coaches" as const,
        "leads" as const,
        "staff" as const,
      ),
      spots: fc.array(spot, { maxLength: 2 }),
      where: fc.option(condition, { nil: undefined }),
    }),
    fc.record({
      op: fc.constant("person" as const),
      at: fc.constant(0),
      name,
      hint: fc.constantFrom("", "CW-12", "a+b@lettr.example"),
    }),
    fc.record({ op: fc.constant("guardians" as const), at: fc.constant(0), of: tie("audience") }),
    fc.record({
      op: fc.constantFrom("union" as const, "both" as const, "except" as const),
      left: tie("audience"),
      right: tie("audience"),
    }),
  ),
}));

describe("any audience", () => {
  const bare = (value: unknown): unknown =>
    JSON.parse(JSON.stringify(value, (key, item: unknown) => (key === "at" ? 0 : item)));

  test("is read again as it was written", () => {
    fc.assert(
      fc.property(audience, (sample) => {
        expect(bare(parsed(formatAudience(sample)))).toEqual(bare(sample));
      }),
    );
  });

  test("is found by the indexes as by looking at everybody", () => {
    const known = fc.constantFrom(
      "students",
      "guardians of students",
      "coaches",
      "staff",
      'students in "Trapeze Two"',
      'guardians of "Wire Walk"',
      'students at "Mill Loft"',
      "students of level 4",
      '"Bram Quist"',
      'staff at "Mill Loft"',
      'guardians of ("Ida Brandt")',
    );
    const { text } = fc.letrec<{ text: string }>((tie) => ({
      text: fc.oneof(
        { maxDepth: 3 },
        known,
        fc
          .tuple(tie("text"), fc.constantFrom("+", "&", "except"), tie("text"))
          .map(([left, op, right]) => `(${left}) ${op} (${right})`),
      ),
    }));
    fc.assert(
      fc.property(text, (sample) => {
        const meant = parsed(sample);
        expect(
          whoBelongs(meant, HOUSE)
            .map(({ person }) => person.id)
            .sort(),
        ).toEqual(
          [...HOUSE.people.values()]
            .filter((person) => belongs(meant, person, HOUSE) !== undefined)
            .map(({ id }) => id)
            .sort(),
        );
      }),
    );
  });

  test("whatever is typed gets an audience or a fault inside the text", () => {
    const piece = fc.constantFrom(
      "students",
      "guardians of",
      "in",
      "this class",
      '"Wire Walk"',
      '"',
      "(",
      ")",
      "+",
      "&",
      "except",
      "where",
      "level",
      ">=",
      "4",
      "is one of",
      ",",
      "<b>",
      "😀",
      "team",
    );
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.array(piece, { maxLength: 12 }).map((pieces) => pieces.join(" ")),
        ),
        (typed) => {
          const answer = parseAudience(typed);
          if (answer.ok) expect(formatAudience(answer.audience)).not.toBe("");
          else expect(answer.fault.at).toBeLessThanOrEqual(typed.length);
          for (const { from } of completeAudience(typed, WORDS))
            expect(from).toBeLessThanOrEqual(typed.length);
        },
      ),
    );
  });
});
