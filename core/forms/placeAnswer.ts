import { each, message, type Message } from "@amigo/language/message";
import { type FactIndex, type Person, nameOf } from "../facts/factIndex";
import { wholeName } from "../sheet/splitName";
import { fold } from "../text/fold";
import { isOneSlip } from "../text/slip";
import type { Answer } from "./readAnswer";
import type { FormContent } from "./form";

/** What becomes of a confirmed answer: it counts, a person is asked who is meant, or it is held until somebody has looked. */
export interface Placed {
  path: "accepted" | "asked" | "held";
  /** Why, in a sentence for whoever decides; empty where nothing is to be decided. */
  why: Message | undefined;
}

/**
 * Decides what becomes of an answer whose address is confirmed. Nothing that the house knows is ever overwritten by it in
 * silence: whoever is not known to speak for a child that somebody speaks for already has to wait for a person's yes.
 *
 * @param isFamily whether it came by the family's own link or code, which only they have
 */
export function placeAnswer(
  answer: Pick<Answer, "given" | "family" | "class" | "name" | "address">,
  index: FactIndex,
  { unknownChild }: Pick<FormContent, "unknownChild">,
  isFamily: boolean,
): Placed {
  const wanted = wholeName({ given: answer.given, family: answer.family });
  const students = [...index.people.values()].filter(({ role }) => role === "student");
  const named = students.filter((student) => sameName(student, answer));
  if (named.length === 0) {
    const near = students.filter((student) => isOneSlip(fold(nameOf(student)), fold(wanted)));
    if (near.length > 0)
      return {
        path: "asked",
        why: message("forms.noSheetHasAChild2", {
          wanted,
          near: each(near.slice(0, 3).map(nameOf), "or"),
        }),
      };
    return unknownChild === "take"
      ? { path: "accepted", why: undefined }
      : { path: "asked", why: message("forms.noSheetHasAChild", { wanted }) };
  }
  const inClass = named.filter(
    ({ cohorts }) =>
      answer.class === "" ||
      [...cohorts].some((key) => fold(index.cohorts.get(key)?.name ?? "") === fold(answer.class)),
  );
  const [student] = inClass.length > 0 ? inClass : named;
  if (student === undefined || inClass.length > 1)
    return {
      path: "asked",
      why: message("forms.thereAreChildrenCalledWhich", { count: named.length, wanted }),
    };
  if (isFamily) return { path: "accepted", why: undefined };
  const guardians = [...student.ties.keys()].flatMap((id) => index.people.get(id) ?? []);
  const speaking = guardians.filter(({ addresses }) => addresses.size > 0);
  if (speaking.length === 0 || speaking.some(({ addresses }) => addresses.has(answer.address)))
    return { path: "accepted", why: undefined };
  const self = speaking.find((guardian) => fold(nameOf(guardian)) === fold(answer.name));
  if (self !== undefined)
    return {
      path: "held",
      why: message("forms.isKnownWithAnotherAddress", {
        name: nameOf(self),
        addresses: each([...self.addresses]),
        address: answer.address,
      }),
    };
  return {
    path: "held",
    why: message("forms.forAlreadyMayAsWell", {
      names: each(speaking.map(nameOf)),
      count: speaking.length,
      child: wanted,
      name: answer.name,
    }),
  };
}

function sameName(student: Person, { given, family }: Pick<Answer, "given" | "family">): boolean {
  const written = fold(`${given} ${family}`);
  return (
    written === fold(`${student.given} ${student.family}`) ||
    written === fold(`${student.family} ${student.given}`)
  );
}
