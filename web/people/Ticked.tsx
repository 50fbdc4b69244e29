import { useState, type FormEvent } from "react";
import { useNavigate, type NavigateFunction } from "react-router";
import type { PersonLine } from "@amigo/contract/people";
import {
  useChangePrivateListMutation,
  useMakePrivateListMutation,
  usePrivateListsQuery,
} from "../data/private";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { FaultLine } from "../ui/Page";
import { t } from "../texts/people";

/**
 * Names people in an audience so that each is meant alone: by number, else by address, where a name may be another's too. A
 * child stands for its guardians.
 */
function audienceOf(people: readonly PersonLine[]): string {
  const named = ({ name, number, addresses }: PersonLine): string => {
    const hint = number || addresses[0]?.address || "";
    return `"${name.replace(/"/g, "")}"${hint === "" ? "" : ` (${hint})`}`;
  };
  const children = people.filter(({ role }) => role === "student").map(named);
  const others = people.filter(({ role }) => role !== "student").map(named);
  return [
    ...(children.length === 0 ? [] : [t("people.guardiansOf", { list: children.join(" + ") })]),
    ...others,
  ].join(" + ");
}

/** A mail has this many single recipients at most. */
const MOST_TARGETS = 60;

/** What can be done with people who are ticked: a list of them, or a private one. They stay ticked from search to search. */
export function Ticked({
  people,
  onClear,
}: {
  people: readonly PersonLine[];
  onClear: () => void;
}) {
  const navigate = useNavigate();
  const { data: lists = [] } = usePrivateListsQuery();
  const [into, setInto] = useState("");
  const [name, setName] = useState("");
  const [make, making] = useMakePrivateListMutation();
  const [change, changing] = useChangePrivateListMutation();
  const ids = people.map(({ id }) => id);
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    if (into === "") {
      const answer = await make({ name, people: ids });
      if (answer.data !== undefined) void navigate(`/mail/private/${answer.data.id}`);
      return;
    }
    if ((await change({ id: into, add: ids })).data !== undefined)
      void navigate(`/mail/private/${into}`);
  };
  return (
    <div
      role="region"
      aria-label={t("people.tickedPeople")}
      className="sticky bottom-0 z-20 mt-3 flex flex-wrap items-center gap-3 rounded-lg border border-petrol bg-panel px-4 py-2.5 shadow-lg"
    >
      <b className="font-[640]">{t("people.peopleTicked", { people: people.length })}</b>
      {people.some(({ role }) => role === "student") && (
        <span className="text-[13px] text-ink-2">{t("people.aChildStandsForThe")}</span>
      )}
      <WriteToThem people={people} navigate={navigate} />
      <Button
        onClick={() =>
          void navigate(`/lists/new?audience=${encodeURIComponent(audienceOf(people))}`)
        }
      >
        {t("people.makeAListOfThem")}
      </Button>
      <form className="flex items-center gap-2" onSubmit={(event) => void submit(event)}>
        <span>{t("people.orAddThemTo")}</span>
        <Choice
          label={t("people.privateList")}
          value={into}
          onChange={setInto}
          options={[
            { value: "", name: t("people.aNewPrivateList") },
            ...lists.map(({ id, name: eachName }) => ({ value: id, name: eachName })),
          ]}
        />
        {into === "" && (
          <input
            aria-label={t("people.nameOfThePrivateList")}
            placeholder={t("people.name")}
            value={name}
            onChange={(event) => setName(event.target.value)}
            maxLength={80}
            className="h-[30px] w-40 rounded-md border border-hair bg-panel px-2.5"
          />
        )}
        <Button
          type="submit"
          disabled={(into === "" && name.trim() === "") || making.isLoading || changing.isLoading}
        >
          {t("people.add")}
        </Button>
      </form>
      <FaultLine error={making.error ?? changing.error} />
      <Button look="quiet" className="ml-auto" onClick={onClear}>
        {t("people.untickAll")}
      </Button>
    </div>
  );
}

function WriteToThem({
  people,
  navigate,
}: {
  people: readonly PersonLine[];
  navigate: NavigateFunction;
}) {
  return (
    <Button
      look="go"
      disabled={people.length > MOST_TARGETS}
      title={
        people.length > MOST_TARGETS
          ? t("people.atMostPeopleAtOnce", { MOSTTARGETS: MOST_TARGETS })
          : undefined
      }
      onClick={() =>
        void navigate("/mail/write", {
          state: {
            people: people.map(({ id, name: eachName, role }) => ({
              kind: "person",
              id,
              name: eachName,
              ...(role === "student" ? { whom: "guardians" } : {}),
            })),
          },
        })
      }
    >
      {t("people.writeToThem")}
    </Button>
  );
}
