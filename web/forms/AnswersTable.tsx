import { useState, Fragment, type Dispatch, type SetStateAction } from "react";
import type { AnswerLine, FormPage } from "@amigo/contract/forms";
import { useOlderAnswersQuery, type useDecideAnswerMutation } from "../data/forms";
import { useMe } from "../data/me";
import { t } from "../texts/forms";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";

const STATE_WORDS: Record<AnswerLine["state"], string> = {
  accepted: t("forms.counts"),
  unconfirmed: t("forms.waitingForTheFamilyTo"),
  asked: t("forms.whoIsMeant"),
  held: "held",
  refused: t("forms.declined2"),
  replaced: t("forms.replacedByANewerAnswer"),
};

function Row({
  line,
  form,
  busy,
  onDecide,
}: {
  line: AnswerLine;
  form: FormPage;
  busy: boolean;
  onDecide: (take: boolean) => void;
}) {
  const me = useMe();
  const [open, setOpen] = useState(false);
  const { answer, state } = line;
  const waits = state === "asked" || state === "held";
  const who = `${answer.given} ${answer.family}`;
  return (
    <Fragment>
      <tr className="border-b border-hair-soft align-baseline">
        <td className="px-4 py-2">
          <b className="font-[620]">{who}</b>
          <span className="block text-[13px] text-ink-3">
            {[answer.class, answer.team].filter((part) => part !== "").join(", ")}
          </span>
        </td>
        <td className="px-4 py-2">
          {answer.name}
          {answer.relationship !== "" && (
            <span className="text-ink-3">, {answer.relationship}</span>
          )}
          <span className="block">
            <Address>{answer.address}</Address>
          </span>
          {answer.secondName !== "" && (
            <span className="block text-[13px] text-ink-2">
              {t("forms.and", {
                secondName: answer.secondName,
                state: line.second,
              })}
            </span>
          )}
        </td>
        <td className="px-4 py-2 text-ink-2">
          {moment(line.at, me.timeZone)}
          {line.older > 0 && (
            <span className="block text-[13px]">
              {t("forms.inPlaceOfOlderOnes", { older: line.older })}
            </span>
          )}
        </td>
        <AnswerState waits={waits} line={line} state={state} />
        <AnswerButtons
          waits={waits}
          busy={busy}
          onDecide={onDecide}
          who={who}
          open={open}
          setOpen={setOpen}
        />
      </tr>
      {open && (
        <tr className="border-b border-hair-soft bg-sunk">
          <td colSpan={5} className="px-4 py-2.5">
            <All line={line} form={form} />
            {line.older > 0 && <Older id={line.id} form={form} />}
          </td>
        </tr>
      )}
    </Fragment>
  );
}

/** Everything that was answered. */
function All({ line: { answer, language }, form }: { line: AnswerLine; form: FormPage }) {
  const titles = form.content.words[0]?.questions ?? [];
  const parts: [string, string][] = [
    ...titles.map(({ title }, at): [string, string] => [title, answer.questions[at] ?? ""]),
    [t("forms.howOften"), form.content.parts.includes("how often") ? answer.howOften : ""],
    [
      t("forms.secondGuardian"),
      [answer.secondName, answer.secondAddress, answer.secondRelationship]
        .filter((part) => part !== "")
        .join(", "),
    ],
    [
      t("forms.consent2"),
      answer.consent === 0 ? "" : t("forms.version", { consent: answer.consent }),
    ],
    [t("forms.language"), language],
  ];
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5 text-[13px]">
      {parts.flatMap(([term, value]) =>
        value === ""
          ? []
          : [
              <dt key={term} className="text-ink-3">
                {term}
              </dt>,
              <dd key={`${term} value`}>{value}</dd>,
            ],
      )}
    </dl>
  );
}

/** The answers before it, which are kept. */
function Older({ id, form }: { id: string; form: FormPage }) {
  const me = useMe();
  const { data = [] } = useOlderAnswersQuery(id);
  return (
    <div className="mt-2 border-t border-hair pt-2">
      <h3 className="text-[13px] font-[620]">{t("forms.earlierAnswers")}</h3>
      {data.map((line) => (
        <div key={line.id} className="mt-1.5">
          <p className="text-[13px]">
            {moment(line.at, me.timeZone)}: {line.answer.name},{" "}
            <Address>{line.answer.address}</Address>, {line.answer.class}
          </p>
          <All line={line} form={form} />
        </div>
      ))}
    </div>
  );
}

export function AnswersTable({
  data,
  form,
  deciding,
  decide,
}: {
  data: { total: number; answers: AnswerLine[] };
  form: FormPage;
  deciding: ReturnType<typeof useDecideAnswerMutation>[1];
  decide: ReturnType<typeof useDecideAnswerMutation>[0];
}) {
  return (
    <Panel scrolls={t("forms.answers2")} className="lg:min-h-0 lg:flex-1">
      <table className="wide-table w-full">
        <thead className="sticky top-0 bg-panel">
          <tr className="border-b border-hair text-left text-[12px] text-ink-3">
            {[
              t("forms.child"),
              t("forms.guardian"),
              t("forms.answered"),
              t("forms.state"),
              t("forms.decision"),
            ].map((title) => (
              <th key={title} className="px-4 py-1.5 font-[500]">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {data.answers.map((answer) => (
            <Row
              key={answer.id}
              line={answer}
              form={form}
              busy={deciding.isLoading}
              onDecide={(take) => void decide({ id: answer.id, take })}
            />
          ))}
        </tbody>
      </table>
    </Panel>
  );
}

function AnswerState({
  waits,
  line,
  state,
}: {
  waits: boolean;
  line: AnswerLine;
  state: AnswerLine["state"];
}) {
  return (
    <td className="max-w-80 px-4 py-2">
      {waits ? (
        <Warn>{line.why}</Warn>
      ) : (
        <span className={state === "accepted" ? "text-leaf-ink" : "text-ink-2"}>
          {STATE_WORDS[state]}
        </span>
      )}
      {line.decidedBy !== "" && (
        <span className="block text-[13px] text-ink-3">
          {t("forms.by", { decidedBy: line.decidedBy })}
        </span>
      )}
    </td>
  );
}

function AnswerButtons({
  waits,
  busy,
  onDecide,
  who,
  open,
  setOpen,
}: {
  waits: boolean;
  busy: boolean;
  onDecide: (take: boolean) => void;
  who: string;
  open: boolean;
  setOpen: Dispatch<SetStateAction<boolean>>;
}) {
  return (
    <td className="px-4 py-2 text-right whitespace-nowrap">
      {waits && (
        <>
          <Button
            disabled={busy}
            onClick={() => onDecide(true)}
            aria-label={t("forms.acceptTheAnswerFor", { who })}
          >
            {t("forms.accept")}
          </Button>{" "}
          <Button
            disabled={busy}
            look="quiet"
            onClick={() => onDecide(false)}
            aria-label={t("forms.declineTheAnswerFor", { who })}
          >
            {t("forms.decline")}
          </Button>
        </>
      )}{" "}
      <Button
        look="quiet"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        aria-label={t("forms.showLessTheAnswerFor", { open: String(open), who })}
      >
        {open ? t("forms.showLess") : t("forms.showAll")}
      </Button>
    </td>
  );
}
