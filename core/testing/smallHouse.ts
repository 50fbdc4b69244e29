import { factKey, type Fact, type Facts } from "../facts/fact";

export const origin = { from: "hand", by: "a test", at: "" } as const;

/** A small house for tests: three classes on two sites, a team, five students, their guardians, two coaches. */
export function smallHouse(): Map<string, Fact> {
  const facts: Fact[] = [];
  const cohort = (
    key: string,
    name: string,
    kind: "class" | "team",
    site: string,
    coach: string,
  ): void => {
    facts.push({
      subject: key,
      kind: "cohort",
      ref: "",
      value: { name, kind, site, coach },
      origin,
    });
  };
  cohort("class:trapeze two", "Trapeze Two", "class", "Mill Loft", "Hale, Sunniva");
  cohort("class:wire walk", "Wire Walk", "class", "Mill Loft", "Petra Dunmore");
  cohort("class:juggling one", "Juggling One", "class", "Big Barn", "Teo Bramwell");
  cohort("team:night parade", "Night Parade", "team", "", "Teo Bramwell");
  const person = (
    role: "student" | "staff" | "guardian",
    id: string,
    given: string,
    family: string,
    more: Partial<Record<"level" | "number" | "site", string>> = {},
    details: Record<string, string> = {},
  ): void => {
    facts.push(
      { subject: id, kind: role, ref: "", value: "", origin },
      { subject: id, kind: "name", ref: "", value: { given, family }, origin },
      { subject: id, kind: "address", ref: `${id}@lettr.example`, value: "", origin },
    );
    for (const kind of ["level", "number", "site"] as const)
      if (more[kind] !== undefined)
        facts.push({ subject: id, kind, ref: "", value: more[kind], origin });
    for (const [ref, value] of Object.entries(details))
      facts.push({ subject: id, kind: "detail", ref, value, origin });
  };
  const enrol = (id: string, ...cohorts: string[]): void => {
    for (const ref of cohorts)
      facts.push({ subject: id, kind: "enrolment", ref, value: "", origin });
  };
  const tie = (guardian: string, ...students: string[]): void => {
    for (const ref of students)
      facts.push({ subject: guardian, kind: "tie", ref, value: "", origin });
  };
  person(
    "student",
    "ida",
    "Ida",
    "Brandt",
    { level: "4", number: "CW-1" },
    { "Stage house": "Copper" },
  );
  enrol("ida", "class:trapeze two", "team:night parade");
  person(
    "student",
    "wren",
    "Wren",
    "Eastlake",
    { level: "5", number: "CW-2" },
    { "Stage house": "Tin" },
  );
  enrol("wren", "class:trapeze two");
  person("student", "hana", "Hana", "Nakagawa", { level: "2", number: "CW-3" });
  enrol("hana", "class:juggling one", "team:night parade");
  person(
    "student",
    "bram",
    "Bram",
    "Quist",
    { level: "10", number: "CW-4" },
    { "Stage house": "Copper" },
  );
  enrol("bram", "class:wire walk");
  person("student", "bram2", "Bram", "Quist", { level: "1", number: "CW-5" });
  enrol("bram2", "class:juggling one");
  person("guardian", "halim", "Halim", "Brandt");
  tie("halim", "ida");
  person("guardian", "tove", "Tove", "Eastlake");
  tie("tove", "wren", "hana");
  person("guardian", "fenna", "Fenna", "Quist");
  tie("fenna", "bram");
  person("staff", "sunniva", "Sunniva", "Hale");
  person("staff", "teo", "Teo", "Bramwell");
  person("staff", "petra", "Petra", "Dunmore");
  person("staff", "odile", "Odile", "Marchetti", { site: "Mill Loft" });
  return new Map(facts.map((fact) => [factKey(fact), fact]));
}

/** Facts that say the same, whatever their origins and order. */
export function plain(facts: Facts): string[] {
  return [...facts].map(([key, { value }]) => `${key} ${JSON.stringify(value)}`).sort();
}
