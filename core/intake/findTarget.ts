import { each, message, type Message } from "@amigo/language/message";
import { fold } from "../text/fold";
import { isOneSlip } from "../text/slip";
import type { ListKind } from "../posting/rules/rule";

/** A list that rows of an intake can name. */
export interface Target {
  id: string;
  title: string;
  /** Its address, and the part of it before the @. */
  address: string;
  name: string;
  /** Short names, with commas between. */
  short: string;
  /** The class, team or committee that it is of; empty for none. */
  cohort: string;
  kind: ListKind;
}

export type FoundTarget =
  { ok: true; target: Target } | { ok: false; sentence: Message; proposal?: string };

/**
 * Finds the list that somebody means: by its title, its address or the start of it, a short name, or the class that it is of.
 * A class alone means its list of students for an inside address, and of guardians for any other.
 *
 * @param inside whether the row's address is one of the house's own
 * @returns the list, or what is wrong with the words, with what was probably meant
 */
export function findTarget(
  written: string,
  targets: readonly Target[],
  inside: boolean,
): FoundTarget {
  const typed = written.trim().toLowerCase();
  const words = fold(written);
  const exact = targets.filter(
    (target) =>
      target.address === typed ||
      target.name === typed ||
      fold(target.title) === words ||
      target.short.split(",").some((short) => short.trim().toLowerCase() === typed),
  );
  if (exact[0] !== undefined && exact.length === 1) return { ok: true, target: exact[0] };
  const ofClass = targets.filter(({ cohort }) => cohort !== "" && fold(cohort) === words);
  const meant = ofClass.filter(({ kind }) => kind === (inside ? "students" : "guardians"));
  if (meant[0] !== undefined && meant.length === 1) return { ok: true, target: meant[0] };
  const several = exact.length > 1 ? exact : ofClass;
  if (several.length > 0)
    return {
      ok: false,
      sentence: message("intake.couldBeChooseOne", {
        written: written.trim(),
        titles: each(
          several.slice(0, 4).map(({ title }) => title),
          "or",
        ),
      }),
      ...(several[0] === undefined ? {} : { proposal: several[0].title }),
    };
  const near = targets.find(({ title, name, cohort }) =>
    [fold(title), name, fold(cohort)].some(
      (candidate) =>
        candidate !== "" &&
        (isOneSlip(candidate, words) || (words.length > 3 && candidate.startsWith(words))),
    ),
  );
  return {
    ok: false,
    sentence: message("intake.noSuchList", {
      written: written.trim().slice(0, 80),
      meant: near?.title,
    }),
    ...(near === undefined ? {} : { proposal: near.title }),
  };
}
