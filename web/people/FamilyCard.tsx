import { Link } from "react-router";
import type { Family, PersonLine } from "@amigo/contract/people";
import { Address } from "../ui/Address";
import { Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { t } from "../texts/people";

/** The people who are ticked, to make a list of them. */
export interface Ticks {
  has(id: string): boolean;
  toggle(person: PersonLine): void;
}

/** One family: students, guardians, each address with its state, and what is missing. */
export function FamilyCard({
  family,
  chosen,
  ticks,
}: {
  family: Family;
  chosen?: string;
  ticks?: Ticks;
}) {
  return (
    <Panel className="overflow-hidden">
      <h2 className="border-b border-hair-soft bg-sunk px-3.5 py-1.5">{family.name}</h2>
      <ul>
        {family.people.map((person) => (
          <Line
            key={person.id}
            person={person}
            isChosen={person.id === chosen}
            {...(ticks === undefined ? {} : { ticks })}
          />
        ))}
      </ul>
      {family.missing.length > 0 && (
        <ul className="border-t border-hair-soft bg-marigold-soft px-3.5 py-1.5 text-[13px]">
          {family.missing.map((what) => (
            <li key={what}>
              <Warn>{what}</Warn>
            </li>
          ))}
        </ul>
      )}
    </Panel>
  );
}

function Line({
  person,
  isChosen,
  ticks,
}: {
  person: PersonLine;
  isChosen: boolean;
  ticks?: Ticks;
}) {
  return (
    <li
      className={`border-t border-hair-soft px-3.5 py-1.5 first:border-t-0 ${isChosen ? "border-l-[3px] border-l-petrol bg-petrol-soft pl-[11px]" : ""}`}
    >
      <span className="flex items-baseline gap-2">
        {ticks !== undefined && (
          <input
            type="checkbox"

            aria-label={t("people.tick", { name: person.name })}
            checked={ticks.has(person.id)}
            onChange={() => ticks.toggle(person)}
          />
        )}
        <Link
          to={`/people/${person.id}`}
          aria-current={isChosen ? "page" : undefined}
          className="font-[620] hover:underline"
        >
          {person.name}
        </Link>
        <span className="min-w-0 flex-1 truncate text-[13px] text-ink-3">
          {person.role === "student"
            ? [person.number, person.detail].filter((part) => part !== "").join(", ")
            : person.detail}
        </span>
        <span className="text-[12px] text-ink-3">{person.role}</span>
      </span>
      {person.addresses.map(({ address, inside, lists }) => (
        <span key={address} className="flex items-baseline gap-2 text-[13px]">
          <Address className="min-w-0 flex-1">{address}</Address>
          <span className="whitespace-nowrap text-ink-3">
            {t("people.inside", {
              inside: String(inside),
              lists,
            })}
          </span>
        </span>
      ))}
    </li>
  );
}
