import { Fragment, useState } from "react";
import { Link } from "react-router";
import { counted } from "@amigo/core/text/sentence";
import type { AnswerLine, FormPage } from "@amigo/contract/forms";
import { useAnswersQuery, useDecideAnswerMutation, useOlderAnswersQuery } from "../data/forms";
import { useMe } from "../data/me";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Empty, FaultLine, Loading, Panel } from "../ui/Page";
import { SearchField } from "../ui/SearchField";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";

const STATES = [
  { value: "all", name: "All" },
  { value: "waiting", name: "To decide" },
  { value: "accepted", name: "Accepted" },
  { value: "unconfirmed", name: "Not confirmed" },
  { value: "refused", name: "Declined" },
] as const;
const SORTS = [
  { value: "newest", name: "newest first" },
  { value: "child", name: "by child" },
  { value: "class", name: "by class" },
  { value: "guardian", name: "by guardian" },
] as const;
const AT_ONCE = 100;

const STATE_WORDS: Record<AnswerLine["state"], string> = {
  accepted: "✓ counts",
  unconfirmed: "waiting for the family to confirm",
  asked: "who is meant?",
  held: "held",
  refused: "− declined",
  replaced: "replaced by a newer answer",
};

/** The answers as a sheet: those that wait for somebody have their reason and two buttons. */
export function Answers({ form }: { form: FormPage }) {
  const [state, setState] = useState<(typeof STATES)[number]["value"]>("all");
  const [sort, setSort] = useState<(typeof SORTS)[number]["value"]>("newest");
  const [q, setQ] = useState("");
  const [from, setFrom] = useState(0);
  const { data, error } = useAnswersQuery({ id: form.id, state, q, sort, from });
  const [decide, deciding] = useDecideAnswerMutation();
  const narrow = (set: () => void): void => {
    set();
    setFrom(0);
  };
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what="the answers" />;
  const nothing =
    form.counts.accepted + form.counts.waiting + form.counts.unconfirmed + form.counts.refused ===
    0;
  if (nothing)
    return (
      <Empty title="No answers yet">
        <p>
          Hand out its address or its code:{" "}
          <Link to="?show=share" className="text-petrol underline">
            Hand out
          </Link>
          . Answers appear here as they come in.
        </p>
      </Empty>
    );
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <div className="mb-2.5 flex flex-wrap items-center gap-2">
        <Choice
          label="Show"
          value={state}
          options={STATES}
          onChange={(value) => narrow(() => setState(value))}
        />
        <Choice
          label="Sorted"
          value={sort}
          options={SORTS}
          onChange={(value) => narrow(() => setSort(value))}
        />
        <SearchField
          label="Find an answer"
          placeholder="Child, guardian, class …"
          value={q}
          onChange={(value) => narrow(() => setQ(value))}
        />
        <span className="text-ink-3" role="status">
          {counted(data.total, "answer")}
        </span>
        <span className="ml-auto flex gap-3">
          <a
            href={`/api/forms/${form.id}/answers.csv`}
            className="text-petrol underline underline-offset-2"
          >
            Export as CSV
          </a>
          {form.counts.accepted > 0 && (
            <Link
              to={`/sources/${form.source}`}
              className="text-petrol underline underline-offset-2"
            >
              As a sheet
            </Link>
          )}
        </span>
      </div>
      <FaultLine error={deciding.error} />
      <Panel scrolls="Answers" className="lg:min-h-0 lg:flex-1">
        <table className="wide-table w-full">
          <thead className="sticky top-0 bg-panel">
            <tr className="border-b border-hair text-left text-[12px] text-ink-3">
              {["Child", "Guardian", "Answered", "State", ""].map((title) => (
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
      {data.total > AT_ONCE && (
        <div className="mt-2 flex items-center gap-2">
          <Button disabled={from === 0} onClick={() => setFrom(from - AT_ONCE)}>
            Previous
          </Button>
          <Button disabled={from + AT_ONCE >= data.total} onClick={() => setFrom(from + AT_ONCE)}>
            Next
          </Button>
          <span className="text-ink-3">
            {from + 1} to {Math.min(from + AT_ONCE, data.total)} of {data.total}
          </span>
        </div>
      )}
    </div>
  );
}

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
              and {answer.secondName}{" "}
              {line.second === "waiting"
                ? "(has not said yes yet)"
                : line.second === "confirmed"
                  ? "✓"
                  : ""}
            </span>
          )}
        </td>
        <td className="px-4 py-2 text-ink-2">
          {moment(line.at, me.timeZone)}
          {line.older > 0 && (
            <span className="block text-[13px]">
              in place of {counted(line.older, "older one")}
            </span>
          )}
        </td>
        <td className="max-w-80 px-4 py-2">
          {waits ? (
            <Warn>{line.why}</Warn>
          ) : (
            <span className={state === "accepted" ? "text-leaf-ink" : "text-ink-2"}>
              {STATE_WORDS[state]}
            </span>
          )}
          {line.decidedBy !== "" && (
            <span className="block text-[13px] text-ink-3">by {line.decidedBy}</span>
          )}
        </td>
        <td className="px-4 py-2 text-right whitespace-nowrap">
          {waits && (
            <>
              <Button
                disabled={busy}
                onClick={() => onDecide(true)}
                aria-label={`Accept, the answer for ${who}`}
              >
                Accept
              </Button>{" "}
              <Button
                disabled={busy}
                look="quiet"
                onClick={() => onDecide(false)}
                aria-label={`Decline the answer for ${who}`}
              >
                Decline
              </Button>
            </>
          )}{" "}
          <Button
            look="quiet"
            aria-expanded={open}
            onClick={() => setOpen(!open)}
            aria-label={`${open ? "Show less" : "Show all"}, the answer for ${who}`}
          >
            {open ? "Show less" : "Show all"}
          </Button>
        </td>
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
    ["How often", form.content.parts.includes("how often") ? answer.howOften : ""],
    [
      "Second guardian",
      [answer.secondName, answer.secondAddress, answer.secondRelationship]
        .filter((part) => part !== "")
        .join(", "),
    ],
    ["Consent", answer.consent === 0 ? "" : `version ${answer.consent}`],
    ["Language", language],
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
      <h3 className="text-[13px] font-[620]">Earlier answers</h3>
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
