import { address } from "./address";
import { alias } from "./alias";
import { bound } from "./bound";
import { cohort } from "./cohort";
import { detail } from "./detail";
import { enrolment } from "./enrolment";
import { exemption } from "./exemption";
import { invariant } from "./invariant";
import { kept } from "./kept";
import type { FactOf, Kind } from "./kind";
import { list } from "./list";
import { name } from "./name";
import { level, number, site } from "./plain";
import { preset } from "./preset";
import { recipe } from "./recipe";
import { guardian, staff, student } from "./role";
import { short } from "./short";
import { tie } from "./tie";

/** Every kind of fact, by its name. */
export const ALL_KINDS = {
  student,
  guardian,
  staff,
  name,
  number,
  level,
  site,
  enrolment,
  tie,
  address,
  detail,
  cohort,
  kept,
  list,
  alias,
  exemption,
  recipe,
  preset,
  short,
  bound,
  invariant,
} as const;

type FactIn<OfKind> =
  OfKind extends Kind<infer Name, infer Ref, infer Value> ? FactOf<Name, Ref, Value> : never;

/** A fact of any kind. */
export type AnyFact = {
  [Name in keyof typeof ALL_KINDS]: FactIn<(typeof ALL_KINDS)[Name]>;
}[keyof typeof ALL_KINDS];

/** Returns the kind of a fact, which can be asked about it. */
export function kindOf<One extends AnyFact>(
  fact: One,
): Kind<One["kind"], One["ref"], One["value"]> {
  return ALL_KINDS[fact.kind] as unknown as Kind<One["kind"], One["ref"], One["value"]>;
}
