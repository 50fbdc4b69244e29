import { fold } from "../text/fold";
import { hash } from "../text/hash";
import type { PersonLink } from "./personLink";
import { nameKey } from "./sameName";
import type { RowRecord } from "../sheet/rowRecord";
import { type KnownStudent, type Students } from "./knownStudents";
import { isSaidOther } from "./studentLinks";

export function match(
  record: RowRecord,
  known: Students,
  links: readonly PersonLink[],
  {
    present,
    isWritten,
  }: {
    present: ReadonlySet<string>;
    /** Whether the very source of the row writes a name elsewhere. */
    isWritten: (name: { given: string; family: string }) => boolean;
  },
): string | KnownStudent[] {
  const key = nameKey(record.name);
  const places = [...record.classes, ...record.teams].map(fold);
  const isOther = (student: KnownStudent): boolean => isSaidOther(record, student, links);
  const shows = (student: KnownStudent): boolean =>
    places.some((place) => student.places.has(place)) ||
    record.guardians.some(({ address }) => address !== undefined && student.addresses.has(address));
  const byGuardian = (student: KnownStudent): boolean =>
    record.guardians.some(({ address }) => address !== undefined && student.addresses.has(address));
  const areBothWritten = ({ name }: KnownStudent): boolean =>
    nameKey(name) !== key &&
    !hasLostLetters(record.name, name) &&
    isWritten(name) &&
    fold(record.name.given).length > 1 &&
    fold(name.given).length > 1;
  const namesakes = known.called(key);
  // A first name alone is many children's: only an address in common makes two rows one child.
  const byAddress = record.guardians.some(({ address }) => address !== undefined);
  const isNameless = fold(record.name.family) === "" && byAddress;
  const exact = namesakes.filter(
    (student) => !isOther(student) && (!isNameless || byGuardian(student)),
  );
  if (exact.length === 1) return exact[0]?.id ?? "";
  const fresh = `s-${hash(`name ${key} ${namesakes.length === 0 ? "" : [...places, ...(isNameless ? record.guardians.map(({ address = "" }) => address) : [])].join(" ")}`)}`;
  const candidates =
    exact.length > 0
      ? exact
      : isNameless
        ? []
        : known
            .nearly(record.name)
            // One sheet that writes both "Aino" and "Eino", of whom nothing is the same, means two children.
            .filter((student) => !isOther(student) && (shows(student) || !areBothWritten(student)));
  const shown = candidates.filter(shows);
  const [seen] = shown;
  // With a class or an address in common, they may be two sisters or one child written twice.
  if (seen !== undefined && shown.length === 1 && !areBothWritten(seen)) return seen.id;
  const [only] = candidates;
  if (candidates.length === 1 && only !== undefined && hasLostLetters(record.name, only.name))
    return only.id;
  if (candidates.length > 0) return candidates;
  // A surname that changed: only somebody who is in no row by the old one, and whom class or guardian speak for.
  const renamed = known
    .renamed(record.name, present, byGuardian)
    .filter((student) => !isOther(student) && shows(student));
  return renamed.length === 0 ? fresh : renamed;
}

function hasLostLetters(...names: readonly { given: string; family: string }[]): boolean {
  return names.some(({ given, family }) => `${given}${family}`.includes("?"));
}
