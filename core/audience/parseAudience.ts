import { isOneSlip } from "../text/slip";
import type { CohortKind } from "../facts/fact";
import type { Audience, AudienceFault } from "./audience";

interface Token {
  at: number;
  text: string;
  quoted: boolean;
}

const KINDS: readonly CohortKind[] = ["class", "team", "committee"];

/**
 * Parses an audience text.
 *
 * ```
 * audience = ["guardians" "of"] "students" "in" cohort
 * cohort   = "this" kind | [kind] quoted-name
 * kind     = "class" | "team" | "committee"
 * ```
 *
 * @returns the audience, or the first fault with its position and, where one word is a slip away, a proposal
 */
export function parseAudience(text: string): { ok: true; audience: Audience } | { ok: false; fault: AudienceFault } {
  const tokens = [...text.matchAll(/"([^"]*)"|[^\s"]+/g)].map((match): Token => ({ at: match.index, text: match[1] ?? match[0], quoted: match[1] !== undefined }));
  let next = 0;
  const wanted = (words: readonly string[]): { ok: false; fault: AudienceFault } => {
    const token = tokens[next];
    const list = words.map((word) => `"${word}"`).join(" or ");
    const proposal = token === undefined ? words[0] : words.find((word) => isOneSlip(word, token.text.toLowerCase()));
    const sentence = token === undefined ? `Here ${list} is missing.` : `"${token.text}" is not understood here; ${list} would be.`;
    return { ok: false, fault: { at: token?.at ?? text.length, sentence, proposal } };
  };
  const take = (...words: string[]): string | undefined => {
    const token = tokens[next];
    const word = words.find((candidate) => token !== undefined && !token.quoted && token.text.toLowerCase() === candidate);
    if (word !== undefined) next++;
    return word;
  };

  const guardians = take("guardians") !== undefined;
  if (guardians && take("of") === undefined) return wanted(["of"]);
  if (take("students") === undefined) return wanted(guardians ? ["students"] : ["students", "guardians"]);
  if (take("in") === undefined) return wanted(["in"]);
  const isThis = take("this") !== undefined;
  const kind = KINDS.find((candidate) => take(candidate) !== undefined);
  if (isThis && kind === undefined) return wanted(KINDS);
  let cohort: string | undefined;
  if (!isThis) {
    const name = tokens[next];
    if (name === undefined || !name.quoted) return { ok: false, fault: { at: name?.at ?? text.length, sentence: "The name of a class, team or committee belongs here, in quotes.", proposal: name === undefined ? undefined : `"${name.text}"` } };
    cohort = name.text;
    next++;
  }
  const rest = tokens[next];
  if (rest !== undefined) return { ok: false, fault: { at: rest.at, sentence: `Nothing more is understood from "${rest.text}" on.`, proposal: undefined } };
  return { ok: true, audience: { who: guardians ? "guardians" : "students", kind: kind ?? "class", cohort } };
}
