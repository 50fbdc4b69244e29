import type { Fact } from "./fact";
import type { Origin, RuleOfHouse } from "./origin";

/** An origin in few letters: `["r", reading, source, sheet, row, meaning, slot, correction]`, `["h", by, at]` or `["s", rule]`. */
type PackedOrigin = (string | number)[];

/** Writes an origin so that hundreds of thousands of them take little room. */
export function packOrigin(origin: Origin): string {
  return JSON.stringify(pack(origin));
}

/** The origin that `packOrigin` wrote. */
export function unpackOrigin(text: string): Origin {
  return unpack(JSON.parse(text) as PackedOrigin);
}

/** Writes the facts of a cause in few letters: what their origins have in common stands once. */
export function packFacts(facts: readonly Fact[]): string {
  const places: string[] = [];
  const packed = facts.map(({ subject, kind, ref, value, origin }) => {
    if (origin.from !== "row") return [subject, kind, ref, value, pack(origin)];
    const place = `${origin.reading}\n${origin.source}\n${origin.sheet}\n${origin.row}`;
    let at = places.indexOf(place);
    if (at < 0) at = places.push(place) - 1;
    return origin.corrected === undefined
      ? [subject, kind, ref, value, at, origin.meaning, origin.slot]
      : [subject, kind, ref, value, at, origin.meaning, origin.slot, origin.corrected];
  });
  return JSON.stringify([places, packed]);
}

/** The facts that `packFacts` wrote. */
export function unpackFacts(text: string): Fact[] {
  const [places, packed] = JSON.parse(text) as [
    string[],
    [string, Fact["kind"], string, Fact["value"], number | PackedOrigin, string, number, string?][],
  ];
  return packed.map(([subject, kind, ref, value, at, meaning, slot, corrected]) => {
    if (typeof at !== "number") return { subject, kind, ref, value, origin: unpack(at) } as Fact;
    const [reading = "", source = "", sheet = "", row = "0"] = (places[at] ?? "").split("\n");
    return {
      subject,
      kind,
      ref,
      value,
      origin: {
        from: "row",
        source,
        reading,
        sheet,
        row: Number(row),
        meaning,
        slot,
        ...(corrected === undefined ? {} : { corrected }),
      },
    } as Fact;
  });
}

function pack(origin: Origin): PackedOrigin {
  if (origin.from === "rule") return ["s", origin.rule];
  if (origin.from === "hand") return ["h", origin.by, origin.at];
  const { reading, source, sheet, row, meaning, slot, corrected } = origin;
  return corrected === undefined
    ? ["r", reading, source, sheet, row, meaning, slot]
    : ["r", reading, source, sheet, row, meaning, slot, corrected];
}

function unpack([from, ...rest]: PackedOrigin): Origin {
  if (from === "s")
    return { from: "rule", rule: String(rest[0] ?? "student-address") as RuleOfHouse };
  if (from === "h") return { from: "hand", by: String(rest[0]), at: String(rest[1]) };
  const [reading, source, sheet, row, meaning, slot, corrected] = rest;
  return {
    from: "row",
    reading,
    source,
    sheet,
    row,
    meaning,
    slot,
    ...(corrected === undefined ? {} : { corrected }),
  } as Origin;
}
