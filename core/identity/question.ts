import type { Message } from "@amigo/language/message";
import type { Fact } from "../facts/fact";
import type { Origin } from "../facts/origin";
import type { PersonLink } from "./personLink";

/** One side of a question: what a source says, in a heading and lines, and where it stands. */
export interface QuestionSide {
  title: Message | string;
  lines: (Message | string)[];
  where: Origin | undefined;
}

/** What an answer does, from then on. */
export type Answered =
  { does: "link"; links: PersonLink[] } | { does: "settle"; settled: SettledFact };

/** A fact settled by hand: which values of one kind hold for a person, whatever the sources say. */
export interface SettledFact {
  subject: string;
  kind: "address" | "name" | "level" | "site" | "enrolment";
  /** As facts have them: addresses and cohorts as `ref`, others as `value`. */
  facts: Pick<Fact, "ref" | "value">[];
}

/** A settled fact with who settled it and when. */
export interface SettledByHand extends SettledFact {
  /** The question that it answers, or empty. */
  key: string;
  by: string;
  at: string;
}

/** Something that only a person can settle, with both sides and what each answer does. What is told of it is a message, or its words where they are chosen already. */
export interface Question {
  /** The same for the same question in every reading, so that it is asked once. */
  key: string;
  kind: "same student" | "student here" | "same guardian" | "whose address" | "which value";
  /** A person whom it is about, by id; empty for a row that is nobody's yet. */
  subject: string;
  about: Message | string;
  sides: QuestionSide[];
  choices: { id: string; label: Message | string; answer: Answered }[];
  /** What holds until it is answered. */
  meanwhile: Message | string;
}
