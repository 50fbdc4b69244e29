import type { PrivateListPage as ListShown } from "@amigo/contract/private";
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { useState, type Dispatch, type SetStateAction } from "react";
import { useNavigate, useParams } from "react-router";
import {
  useChangePrivateListMutation,
  useDeletePrivateListMutation,
  usePersonHitsQuery,
  usePrivateListQuery,
} from "../data/private";
import { Shelf } from "../shelf/Shelf";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Empty, FaultLine, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { Rich, t } from "../texts/mail";

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
  if (list === undefined) return <Loading what={t("mail.thePrivateList")} />;
  const gone = list.persons.filter((person) => person.gone);
  const open = hits.filter((hit) => !list.persons.some((person) => person.id === hit.id));
  const remove = async (): Promise<void> => {
    if ((await end(id)).error === undefined) void navigate("/mail?show=private");
  };
  return (
    <>
      <PageHead title={list.name} line={t("mail.aPrivateListOfYours", { people: list.people })}>
        <Button onClick={() => void remove()} disabled={ending.isLoading}>
          {t("mail.deleteThisList")}
        </Button>
        <Button
          look="go"
          disabled={list.people - list.gone === 0}
          onClick={() => void navigate(`/mail/write?private=${id}`)}
        >
          {t("mail.writeToPeople", { count: list.people - list.gone })}
        </Button>
      </PageHead>
      <div className="flex max-w-3xl flex-col gap-3">
        {gone.length > 0 && (
          <p className="flex items-center gap-3 rounded-md border border-marigold-line bg-marigold-soft px-3 py-2">
            <span className="flex-1">
              <Rich
                id="mail.ofThesePeopleNoLonger"
                gone={gone.length}
                warn={(chunks) => <Warn>{chunks}</Warn>}
              />
            </span>
            <Button onClick={() => void change({ id, remove: gone.map((person) => person.id) })}>
              {t("mail.removeGone", { gone: gone.length })}
            </Button>
          </p>
        )}
        <PersonFinder change={change} id={id} setText={setText} text={text} open={open} />
        <p className="flex flex-wrap items-center gap-2">
          <Rich
            id="mail.mailForAChildOnIt"
            choice={
              <Choice
                small
                label={t("mail.mailForAChildOn")}
                value={list.children}
                onChange={(children) => void change({ id, children })}
                options={[
                  { value: "guardians", name: t("mail.theirGuardians") },
                  { value: "themselves", name: t("mail.theChild") },
                ]}
              />
            }
          />
        </p>
        <FaultLine error={changing.error ?? ending.error} />
        <PersonsOnList list={list} change={change} id={id} />
        <PrivateShelf list={list} />
      </div>
    </>
  );
}

/** What the owner of a private list shares with those on it. */
function PrivateShelf({ list: { id, persons } }: { list: ListShown }) {
  const addresses = new Set(persons.flatMap((person) => person.addresses));
  return (
    <section aria-label={t("mail.privateShelf")}>
      <h2 className="mt-3">{t("mail.privateShelf")}</h2>
      <p className="mb-2 text-[13px] text-ink-2">{t("mail.privateShelfIs")}</p>
      <Panel>
        <Shelf list={{ id, isOpen: true, isPrivate: true, members: addresses.size }} />
      </Panel>
    </section>
  );
}

function PersonFinder({
  change,
  id,
  setText,
  text,
  open,
}: {
  change: ReturnType<typeof useChangePrivateListMutation>[0];
  id: string;
  setText: Dispatch<SetStateAction<string>>;
  text: string;
  open: {
    id: string;
    name: string;
    detail: string;
    reached: boolean;
    child: boolean;
    addresses: string[];
  }[];
}) {
  return (
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
        aria-label={t("mail.addSomebody")}
        placeholder={t("mail.addSomebodyPartOfA")}
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
                <Warn>{t("mail.notReached")}</Warn>
              </span>
            )}
          </ComboboxOption>
        ))}
      </ComboboxOptions>
    </Combobox>
  );
}

function PersonsOnList({
  list,
  change,
  id,
}: {
  list: ListShown;
  change: ReturnType<typeof useChangePrivateListMutation>[0];
  id: string;
}) {
  return (
    <Panel>
      {list.persons.length === 0 ? (
        <Empty title={t("mail.nobodyIsOnItYet")}>
          <p>{t("mail.typePartOfAName")}</p>
        </Empty>
      ) : (
        <ul>
          {list.persons.map((person) => (
            <li
              key={person.id}
              className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair-soft px-4 py-1.5 last:border-b-0"
            >
              <span className="min-w-0 flex-1 basis-40">
                <b className="font-[620]">{person.name}</b>
                <span className="block text-[13px] text-ink-2">{person.detail}</span>
              </span>
              <span className="min-w-0 text-[13px] wrap-anywhere">
                {person.gone ? (
                  <Warn>{t("mail.gone")}</Warn>
                ) : person.addresses.length === 0 ? (
                  <Warn>{t("mail.noAddress")}</Warn>
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
                <Rich id="mail.remove2" name={<span className="sr-only"> {person.name}</span>} />
              </Button>
            </li>
          ))}
        </ul>
      )}
    </Panel>
  );
}
