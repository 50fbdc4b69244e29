import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { counted } from "@amigo/core/text/sentence";
import {
  useChangePrivateListMutation,
  useDeletePrivateListMutation,
  usePersonHitsQuery,
  usePrivateListQuery,
} from "../data/private";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Empty, FaultLine, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";

/** One private list: its people, those of them who have left the house, and a field that finds more. */
export function PrivateListPage() {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const { data: list, error } = usePrivateListQuery(id);
  const [change, changing] = useChangePrivateListMutation();
  const [end, ending] = useDeletePrivateListMutation();
  const [text, setText] = useState("");
  const { currentData: hits = [] } = usePersonHitsQuery(text.trim(), { skip: text.trim() === "" });
  if (error !== undefined) return <FaultPage error={error} />;
  if (list === undefined) return <Loading what="the private list" />;
  const gone = list.persons.filter((person) => person.gone);
  const open = hits.filter((hit) => !list.persons.some((person) => person.id === hit.id));
  const remove = async (): Promise<void> => {
    if ((await end(id)).error === undefined) void navigate("/mail?show=private");
  };
  return (
    <>
      <PageHead
        title={list.name}
        line={`A private list of yours, ${counted(list.people, "person", "people")}`}
      >
        <Button onClick={() => void remove()} disabled={ending.isLoading}>
          Delete this list
        </Button>
        <Button
          look="go"
          disabled={list.people - list.gone === 0}
          onClick={() => void navigate(`/mail/write?private=${id}`)}
        >
          Write to {counted(list.people - list.gone, "person", "people")}
        </Button>
      </PageHead>
      <div className="flex max-w-3xl flex-col gap-3">
        {gone.length > 0 && (
          <p className="flex items-center gap-3 rounded-md border border-marigold-line bg-marigold-soft px-3 py-2">
            <span className="flex-1">
              <Warn>
                {gone.length} of these people {gone.length === 1 ? "is" : "are"} no longer here.
              </Warn>{" "}
              Nothing is sent to them.
            </span>
            <Button onClick={() => void change({ id, remove: gone.map((person) => person.id) })}>
              Remove {gone.length === 1 ? "this person" : `these ${gone.length} people`}
            </Button>
          </p>
        )}
        <Combobox
          value={null}
          onChange={(hit: { id: string } | null) => {
            if (hit !== null) {
              void change({ id, add: [hit.id] });
              setText("");
            }
          }}
          immediate
        >
          <ComboboxInput
            aria-label="Add somebody"
            placeholder="Add somebody: part of a name or number"
            value={text}
            displayValue={() => text}
            onChange={(event) => setText(event.target.value)}
            autoComplete="off"
            className="h-[34px] w-96 max-w-full rounded-md border border-hair bg-panel px-2.5"
          />
          <ComboboxOptions
            modal={false}
            anchor={{ to: "bottom start", gap: 4 }}
            className="z-30 min-w-[min(24rem,90vw)] rounded-md border border-hair bg-panel py-1 shadow-lg empty:invisible"
          >
            {open.map((hit) => (
              <ComboboxOption
                key={hit.id}
                value={hit}
                className="flex cursor-pointer items-baseline gap-3 px-3 py-1.5 data-focus:bg-petrol-soft"
              >
                <b className="font-[620]">{hit.name}</b>
                <span className="flex-1 text-[13px] text-ink-2">{hit.detail}</span>
                {!hit.reached && (
                  <span className="text-[13px]">
                    <Warn>not reached</Warn>
                  </span>
                )}
              </ComboboxOption>
            ))}
          </ComboboxOptions>
        </Combobox>
        <p className="flex flex-wrap items-center gap-2">
          Mail for a child on it goes to{" "}
          <Choice
            small
            label="Mail for a child on it goes to"
            value={list.children}
            onChange={(children) => void change({ id, children })}
            options={[
              { value: "guardians", name: "their guardians" },
              { value: "themselves", name: "the child" },
            ]}
          />
        </p>
        <FaultLine error={changing.error ?? ending.error} />
        <Panel>
          {list.persons.length === 0 ? (
            <Empty title="Nobody is on it yet">
              <p>Type part of a name above. Nobody is told that they are on it.</p>
            </Empty>
          ) : (
            <ul>
              {list.persons.map((person) => (
                <li
                  key={person.id}
                  className="flex items-center gap-4 border-b border-hair-soft px-4 py-1.5 last:border-b-0"
                >
                  <span className="min-w-0 flex-1">
                    <b className="font-[620]">{person.name}</b>
                    <span className="block text-[13px] text-ink-2">{person.detail}</span>
                  </span>
                  <span className="text-[13px]">
                    {person.gone ? (
                      <Warn>gone</Warn>
                    ) : person.addresses.length === 0 ? (
                      <Warn>no address</Warn>
                    ) : (
                      person.addresses.map((address) => (
                        <span key={address} className="block">
                          <Address>{address}</Address>
                        </span>
                      ))
                    )}
                  </span>
                  <Button
                    className="min-h-[26px]! px-2! text-[13px]"
                    onClick={() => void change({ id, remove: [person.id] })}
                  >
                    Remove<span className="sr-only"> {person.name}</span>
                  </Button>
                </li>
              ))}
            </ul>
          )}
        </Panel>
      </div>
    </>
  );
}
