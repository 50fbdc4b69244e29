import type { Message } from "@amigo/language/message";
import type { z } from "zod";
import type { FactIndex } from "../factIndex";
import type { Origin } from "../origin";

/** One fact of a kind: who or what it is about, what tells it apart from others of its kind, its value, and where it comes from. */
export interface FactOf<Name extends string, Ref extends string, Value> {
  kind: Name;
  subject: string;
  ref: Ref;
  value: Value;
  origin: Origin;
}

/** What kinds of facts ask when the next season begins. */
export interface Crossing {
  /** A calendar date. */
  today: string;
  /** Returns the key of the list that follows a list; undefined where none does. */
  listAfter: (key: string) => string | undefined;
  /** Returns the class to which the students of a class go; undefined where they go to none. */
  cohortAfter: (key: string) => string | undefined;
  /** Returns a student's level in the next season; undefined where students keep theirs. */
  levelAfter: (level: string) => string | undefined;
}

/** What of a fact is personal data: a name, number or address, by which somebody is also found elsewhere, or a text about them. */
export type Personal = "name" | "number" | "address" | "text";

/** What is said of a fact on somebody's page: when it began, and when it ended. */
export interface FactWords {
  begins: Message;
  ends: Message;
}

/** A fact without which another one says nothing: a tie needs its student. Of several kinds, one is enough. */
export interface Need {
  subject: string;
  kinds: readonly string[];
}

/**
 * A kind of facts. To add one, add a file with one of these and name it in `allKinds.ts`; where facts are indexed, carried
 * along, put into words and removed, this is asked.
 */
export interface Kind<Name extends string, Ref extends string, Value> {
  kind: Name;
  /** What its subject is. */
  about: "person" | "cohort" | "list" | "house";
  /** The shape in which its value is stored. */
  value: z.ZodType<Value>;
  /** Takes a fact into an index, in the place of an older value. */
  addTo: (index: FactIndex, fact: FactOf<Name, Ref, Value>) => void;
  removeFrom: (index: FactIndex, fact: FactOf<Name, Ref, Value>) => void;
  /** Returns what must stand so that it says something; nothing for most. */
  needs?: (fact: FactOf<Name, Ref, Value>) => readonly Need[];
  /** Whether it stays on a calendar date though no source speaks of it. Without this it stays only for staff with an account. */
  isKeptByHand?: (fact: FactOf<Name, Ref, Value>, today: string) => boolean;
  /** Returns it as the next season takes it along; undefined where it stays behind. Without this it stays as it is. */
  nextSeason?: (
    fact: FactOf<Name, Ref, Value>,
    crossing: Crossing,
  ) => FactOf<Name, Ref, Value> | undefined;
  /**
   * Returns what a person's page says of it. Without this it says nothing.
   *
   * @param page whose page it is
   * @param name returns what somebody or a class is called
   */
  words?: (
    fact: FactOf<Name, Ref, Value>,
    page: string,
    name: (id: string) => Message,
  ) => FactWords;
  /** Returns what it is called, in a sentence about it. */
  called: (fact: FactOf<Name, Ref, Value>, name: (id: string) => string) => Message;
  /** What of it is personal data; without this, nothing. */
  personal?: Personal;
  /** What is left of a personal value once the person's data is removed. */
  blank?: Value;
  /** Returns the text by which people find it. */
  search?: (fact: FactOf<Name, Ref, Value>) => string;
}
