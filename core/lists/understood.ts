import type { Audience, AudienceFault, Condition } from "../audience/audience";
import { parseAudience, parseCondition } from "../audience/parseAudience";

const AUDIENCES = new Map<string, ReturnType<typeof parseAudience>>();
const CONDITIONS = new Map<string, ReturnType<typeof parseCondition>>();
const MOST = 5000;

/** Nobody: what an audience means that can't be understood. */
export const NOBODY: Audience = {
  op: "group",
  at: 0,
  who: "students",
  spots: [{ at: 0, kind: "class", name: "" }],
  where: undefined,
};

/** An audience text, understood once however many lists have it. */
export function understoodAudience(
  text: string,
): { ok: true; audience: Audience } | { ok: false; fault: AudienceFault } {
  return remembered(AUDIENCES, text, parseAudience);
}

/** A condition text, understood once. */
export function understoodCondition(
  text: string,
): { ok: true; condition: Condition | undefined } | { ok: false; fault: AudienceFault } {
  return remembered(CONDITIONS, text, parseCondition);
}

function remembered<Parsed>(
  known: Map<string, Parsed>,
  text: string,
  parse: (text: string) => Parsed,
): Parsed {
  let parsed = known.get(text);
  if (parsed === undefined) {
    parsed = parse(text);
    if (known.size >= MOST) known.clear();
    known.set(text, parsed);
  }
  return parsed;
}
