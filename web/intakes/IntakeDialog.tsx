import { fold } from "@amigo/core/text/fold";
import { useId, useState, type FormEvent } from "react";
import { useNavigate } from "react-router";
import type { IntakePage } from "@amigo/contract/intakes";
import {
  useChangeIntakeMutation,
  useIntakeChoicesQuery,
  useMakeIntakeMutation,
  type IntakeChoices,
  type IntakeContent,
  type IntakePeople,
} from "../data/intakes";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { DaysAndTimes, readTimes } from "../ui/DaysAndTimes";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine, Loading } from "../ui/Page";
import { SearchField } from "../ui/SearchField";
import { WelcomeField } from "../rules/WelcomeField";
import { Rich, t } from "../texts/intakes";

const USUAL: IntakeContent = { name: "", how: "welcome", welcome: "", lists: [], times: null };

/** What an intake is for, who fills it, and how its people come onto the lists. */
export function IntakeDialog({
  page,
  onClose,
}: {
  page: IntakePage | undefined;
  onClose: () => void;
}) {
  const { data: choices } = useIntakeChoicesQuery();
  return (
    <Modal
      title={
        page === undefined ? t("intakes.makeASheet") : t("intakes.change", { name: page.name })
      }
      onClose={onClose}
      wide
    >
      {choices === undefined ? (
        <Loading what={t("intakes.theLists")} />
      ) : (
        <Editor page={page} choices={choices} onClose={onClose} />
      )}
    </Modal>
  );
}

function Editor({
  page,
  choices,
  onClose,
}: {
  page: IntakePage | undefined;
  choices: IntakeChoices;
  onClose: () => void;
}) {
  const me = useMe();
  const navigate = useNavigate();
  const [content, setContent] = useState<IntakeContent>(
    page?.content ?? { ...USUAL, lists: choices.every ? [] : choices.lists.map(({ id }) => id) },
  );
  const [people, setPeople] = useState<IntakePeople>(
    page?.people.map(({ account, role }) => ({ account, role })) ?? [],
  );
  const [times, setTimes] = useState(page?.content.times?.times.join(", ") ?? "16:00");
  const [make, making] = useMakeIntakeMutation();
  const [change, changing] = useChangeIntakeMutation();
  const set = (part: Partial<IntakeContent>): void =>
    setContent((before) => ({ ...before, ...part }));
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const wanted = {
      content: {
        ...content,
        times: content.times === null ? null : { ...content.times, times: readTimes(times) },
      },
      people,
    };
    const answer =
      page === undefined
        ? await make(wanted)
        : await change({ id: page.id, version: page.version, ...wanted });
    if (answer.data === undefined) return;
    onClose();
    if ("id" in answer.data) void navigate(`/intakes/${answer.data.id}`);
  };
  return (
    <form className="flex flex-col gap-3.5" onSubmit={(event) => void submit(event)}>
      <Field
        label={t("intakes.name")}
        autoFocus
        value={content.name}
        maxLength={80}
        placeholder={t("intakes.helpersAtTheOpenDay")}
        onChange={(event) => set({ name: event.target.value })}
      />
      <div className="grid sm:grid-cols-2 gap-4">
        <Picker
          title={choices.every ? t("intakes.forTheseListsNoneTicked") : t("intakes.forTheseLists")}
          find={t("intakes.findAList")}
          items={choices.lists.map(({ id, title }) => ({ id, name: title }))}
          chosen={new Set(content.lists)}
          onToggle={(id, on) =>
            set({
              lists: on ? [...content.lists, id] : content.lists.filter((list) => list !== id),
            })
          }
        />
        <Picker
          title={t("intakes.filledByTheseColleagues")}
          find={t("intakes.findAColleague")}
          items={choices.accounts.filter(({ id }) => id !== me.id)}
          chosen={new Set(people.map(({ account }) => account))}
          onToggle={(account, on) =>
            setPeople(
              on
                ? [...people, { account, role: "helper" }]
                : people.filter((person) => person.account !== account),
            )
          }
          beside={(account) => {
            const person = people.find((one) => one.account === account);
            return person === undefined ? null : (
              <Choice
                small
                label={t("intakes.may", {
                  name: choices.accounts.find(({ id }) => id === account)?.name ?? "",
                })}
                value={person.role}
                onChange={(role) =>
                  setPeople(
                    people.map((one) => (one.account === account ? { account, role } : one)),
                  )
                }
                options={[
                  { value: "helper", name: t("intakes.addsRows") },
                  { value: "lead", name: t("intakes.approvesToo") },
                ]}
              />
            );
          }}
        />
      </div>
      <AddingChoices content={content} set={set} />
      {content.times !== null && (
        <DaysAndTimes
          days={content.times.days}
          times={times}
          zone={me.timeZone}
          onDays={(days) => set({ times: { days, times: [] } })}
          onTimes={setTimes}
        />
      )}
      {content.how !== "quietly" && (
        <WelcomeField
          label={content.how === "ask" ? t("intakes.welcomeAfterTheyAgree") : t("intakes.welcome")}
          value={content.welcome}
          onChange={(welcome) => set({ welcome })}
          lists={content.lists}
          help={t("intakes.leftEmptyEachListsOwn")}
        />
      )}
      <FaultLine error={making.error ?? changing.error} />
      <div className="sticky -bottom-5 -mx-5 -mb-5 flex justify-end gap-2 border-t border-hair bg-panel px-5 py-3">
        <Button onClick={onClose}>{t("intakes.close")}</Button>
        <Button
          look="go"
          type="submit"
          disabled={content.name.trim() === "" || making.isLoading || changing.isLoading}
        >
          {page === undefined ? t("intakes.makeTheSheet") : t("intakes.save")}
        </Button>
      </div>
    </form>
  );
}

function Picker({
  title,
  find,
  items,
  chosen,
  onToggle,
  beside,
}: {
  title: string;
  find: string;
  items: readonly { id: string; name: string }[];
  chosen: ReadonlySet<string>;
  onToggle: (id: string, on: boolean) => void;
  beside?: (id: string) => React.ReactNode;
}) {
  const [q, setQ] = useState("");
  const id = useId();
  const words = fold(q)
    .split(" ")
    .filter((word) => word !== "");
  const shown = items.filter(({ name }) => words.every((word) => fold(name).includes(word)));
  return (
    <fieldset className="min-w-0">
      <legend className="mb-1 text-[13px] font-[560]">{title}</legend>
      <SearchField
        label={find}
        placeholder={find}
        value={q}
        onChange={setQ}
        className="mb-1 w-full"
      />
      <ul
        className="h-40 overflow-auto rounded-md border border-hair py-1"
        tabIndex={0}
        aria-label={title}
      >
        {shown.map((item) => (
          <li key={item.id} className="flex min-h-[28px] items-center gap-2 px-2.5">
            <label className="flex min-w-0 flex-1 items-center gap-2">
              <input
                type="checkbox"
                name={id}
                className="size-4 shrink-0"
                checked={chosen.has(item.id)}
                onChange={(event) => onToggle(item.id, event.target.checked)}
              />
              <span className="truncate">{item.name}</span>
            </label>
            {beside?.(item.id)}
          </li>
        ))}
        {shown.length === 0 && (
          <li className="px-2.5 py-1 text-[13px] text-ink-3">
            {items.length === 0
              ? t("intakes.thereIsNothingToChoose")
              : t("intakes.nothingHereHasInIt", { q })}
          </li>
        )}
      </ul>
    </fieldset>
  );
}

function AddingChoices({
  content,
  set,
}: {
  content: IntakeContent;
  set: (part: Partial<IntakeContent>) => void;
}) {
  return (
    <p>
      <Rich
        id="intakes.approvedPeopleAreAdded"
        choice={
          <Choice
            small
            label={t("intakes.theyAreAdded")}
            value={content.how}
            onChange={(how) => set({ how })}
            options={[
              { value: "quietly", name: t("intakes.quietly") },
              { value: "welcome", name: t("intakes.withAWelcome") },
              { value: "ask", name: t("intakes.afterTheyAgree") },
            ]}
          />
        }
        choice2={
          <Choice
            small
            label={t("intakes.approvedRowsAreCarriedOut")}
            value={content.times === null ? "at once" : "times"}
            onChange={(when) =>
              set({
                times: when === "at once" ? null : { days: [1, 2, 3, 4, 5], times: ["16:00"] },
              })
            }
            options={[
              { value: "at once", name: t("intakes.asSoonAsTheyAre") },
              { value: "times", name: t("intakes.onDaysAndTimes") },
            ]}
          />
        }
      />
    </p>
  );
}
