import { useState, type FormEvent } from "react";
import { useNavigate } from "react-router";
import { counted } from "@amigo/core/text/sentence";
import type { PersonLine } from "@amigo/contract/people";
import {
  useChangePrivateListMutation,
  useMakePrivateListMutation,
  usePrivateListsQuery,
} from "../data/private";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { FaultLine } from "../ui/Page";

/** Names people in an audience so that each is meant alone: by number, else by address, where a name may be another's too. */
function audienceOf(people: readonly PersonLine[]): string {
  return people
    .map(({ name, number, addresses }) => {
      const hint = number || addresses[0]?.address || "";
      return `"${name.replace(/"/g, "")}"${hint === "" ? "" : ` (${hint})`}`;
    })
    .join(" + ");
}

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
      aria-label="Ticked people"
      className="sticky bottom-0 z-20 mt-3 flex flex-wrap items-center gap-3 rounded-lg border border-petrol bg-panel px-4 py-2.5 shadow-lg"
    >
      <b className="font-[640]">{counted(people.length, "person", "people")} ticked</b>
      <Button
        look="go"
        onClick={() =>
          void navigate(`/lists/new?audience=${encodeURIComponent(audienceOf(people))}`)
        }
      >
        Make a list of them
      </Button>
      <form className="flex items-center gap-2" onSubmit={(event) => void submit(event)}>
        <span>or put them on</span>
        <Choice
          label="Private list"
          value={into}
          onChange={setInto}
          options={[
            { value: "", name: "a new private list" },
            ...lists.map(({ id, name: own }) => ({ value: id, name: own })),
          ]}
        />
        {into === "" && (
          <input
            aria-label="Name of the private list"
            placeholder="its name"
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
          Put them there
        </Button>
      </form>
      <FaultLine error={making.error ?? changing.error} />
      <Button look="quiet" className="ml-auto" onClick={onClear}>
        Untick all
      </Button>
    </div>
  );
}
