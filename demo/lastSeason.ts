import { cohortKey, type Fact } from "@amigo/core/facts/fact";
import { fold } from "@amigo/core/text/fold";

const CLASSES: readonly [string, string, string][] = [
  ["Tumbling Seeds", "Big Barn", "Ravi Lindqvist"],
  ["Juggling One", "Big Barn", "Teo Bramwell"],
  ["Acro Pairs", "Big Barn", "Sunniva Hale"],
  ["Trapeze Two", "Mill Loft", "Sunniva Hale"],
  ["Wire Walk", "Mill Loft", "Petra Dunmore"],
];

/** Families of the season that is over: the student, their class and level, and who looks after them. */
const FAMILIES: readonly [string, string, string, string, string][] = [
  ["Alba Fennimore", "Tumbling Seeds", "1", "Corin Fennimore", "corin@oakmail.example"],
  ["Jory Tamsin", "Tumbling Seeds", "1", "Lowen Tamsin", "l.tamsin@brightpost.example"],
  ["Merrin Oakes", "Juggling One", "2", "Talan Oakes", "talan.oakes@lettr.example"],
  ["Perran Vane", "Juggling One", "3", "Demelza Vane", "dvane@fernpost.example"],
  ["Kensa Rowse", "Juggling One", "2", "Ebrel Rowse", "ebrel@mailhaven.example"],
  ["Sorrel Whitlock", "Acro Pairs", "4", "Hedra Whitlock", "hedra.w@brightpost.example"],
  ["Gwyn Harrowgate", "Acro Pairs", "5", "Piran Harrowgate", "piran@oakmail.example"],
  ["Tegen Marlowe", "Trapeze Two", "5", "Ysella Marlowe", "ysella@lettr.example"],
  ["Denzel Farrant", "Trapeze Two", "6", "Rosen Farrant", "rosen.farrant@fernpost.example"],
  ["Elowen Cray", "Wire Walk", "6", "Cador Cray", "cador@mailhaven.example"],
];

/** What the house knew of its people at the end of the last season. */
export function lastSeasonFacts(): Fact[] {
  const origin = { from: "hand", by: "Juno Abara", at: "2025-09-08T08:00:00.000Z" } as const;
  const facts: Fact[] = CLASSES.map(([name, site, coach]): Fact => ({
    subject: cohortKey("class", fold(name)),
    kind: "cohort",
    ref: "",
    value: { name, kind: "class", site, coach },
    origin,
  }));
  FAMILIES.forEach(([student, name, level, guardian, address], index) => {
    const ids = [`s-last${index + 1}`, `g-last${index + 1}`] as const;
    const nameOf = (whole: string) => ({
      given: whole.split(" ")[0] ?? "",
      family: whole.split(" ")[1] ?? "",
    });
    facts.push(
      { subject: ids[0], kind: "student", ref: "", value: "", origin },
      { subject: ids[0], kind: "name", ref: "", value: nameOf(student), origin },
      {
        subject: ids[0],
        kind: "address",
        ref: `${student.toLowerCase().replace(" ", ".")}@copperwheel.example`,
        value: "",
        origin,
      },
      { subject: ids[0], kind: "level", ref: "", value: level, origin },
      {
        subject: ids[0],
        kind: "enrolment",
        ref: cohortKey("class", fold(name)),
        value: "",
        origin,
      },
      { subject: ids[1], kind: "guardian", ref: "", value: "", origin },
      { subject: ids[1], kind: "name", ref: "", value: nameOf(guardian), origin },
      { subject: ids[1], kind: "address", ref: address, value: "", origin },
      { subject: ids[1], kind: "tie", ref: ids[0], value: "", origin },
    );
  });
  return facts;
}
