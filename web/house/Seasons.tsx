import { useRef, useState } from "react";
import { counted } from "@amigo/core/text/sentence";
import type { SeasonWanted } from "@amigo/contract/edits";
import type { House } from "@amigo/contract/house";
import { useNextSeasonQuery, useOpenSeasonMutation, usePlannedSeasonQuery } from "../data/edits";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { ListDeltas } from "../ui/ListDeltas";
import { Modal } from "../ui/Modal";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { Progress } from "../ui/Progress";
import { WideTable } from "../ui/WideTable";

const STUDENTS = [
  { value: "one level up", name: "one level up" },
  { value: "as they are", name: "as they are" },
  { value: "left for the roster", name: "placed by the new roster" },
] as const;

/** The seasons of the house, and how the next one begins. */
export function Seasons({ house }: { house: House }) {
  const [opening, setOpening] = useState(false);
  const [said, setSaid] = useState("");
  return (
    <div className="flex flex-col gap-3.5">
      {said !== "" && (
        <p role="status" className="rounded-md border border-leaf bg-leaf-soft px-3 py-2">
          {said}
        </p>
      )}
      <Panel className="max-w-2xl px-4 py-3.5">
        <h2>Seasons</h2>
        <ul className="mt-1">
          {house.seasons.map(({ label, current, lists }) => (
            <li key={label} className="flex gap-3 border-t border-hair-soft py-1.5">
              <b className="flex-1 font-[560]">{label.replace("-", "–")}</b>
              <span>{current ? "current" : "over; its lists can be read but not written to"}</span>
              <span className="w-16 text-right text-ink-3">{counted(lists, "list")}</span>
            </li>
          ))}
        </ul>
        {!opening && (
          <Button look="go" className="mt-3" onClick={() => setOpening(true)}>
            Open the next season
          </Button>
        )}
      </Panel>
      {opening && (
        <NextSeason
          onClose={() => setOpening(false)}
          onDone={(sentence) => {
            setOpening(false);
            setSaid(sentence);
          }}
        />
      )}
    </div>
  );
}

function NextSeason({
  onClose,
  onDone,
}: {
  onClose: () => void;
  onDone: (sentence: string) => void;
}) {
  const { data, error } = useNextSeasonQuery();
  if (error !== undefined) return <FaultLine error={error} />;
  return data === undefined ? (
    <Loading what="this season" />
  ) : (
    <Plan key={data.current} {...data} onClose={onClose} onDone={onDone} />
  );
}

function Plan({
  current,
  wanted,
  cohorts,
  onClose,
  onDone,
}: {
  current: string;
  wanted: SeasonWanted;
  cohorts: { key: string; name: string; kind: string; site: string; students: number }[];
  onClose: () => void;
  onDone: (sentence: string) => void;
}) {
  const [own, setOwn] = useState(wanted);
  const [preview, setPreview] = useState(false);
  const change = (key: string, part: Partial<SeasonWanted["cohorts"][number]>): void =>
    setOwn({
      ...own,
      cohorts: own.cohorts.map((cohort) => (cohort.key === key ? { ...cohort, ...part } : cohort)),
    });
  const kept = own.cohorts.filter(({ name }) => name !== null);
  return (
    <Panel className="px-4 py-3.5">
      <h2>The next season</h2>
      <p className="mb-3 text-ink-2">
        Everybody in the roster is carried over. The lists of {current} are closed: their archive
        stays, and whoever writes to one is told which list replaces it. You see everything before
        anything happens.
      </p>
      <div className="mb-3 flex flex-wrap items-end gap-4">
        <Field
          label="Season"
          value={own.label}
          onChange={(event) => setOwn({ ...own, label: event.target.value })}
          className="w-36"
        />
        <p className="pb-1.5">
          Students go{" "}
          <Choice
            small
            label="Students go"
            value={own.students}
            onChange={(students) => setOwn({ ...own, students })}
            options={STUDENTS}
          />
        </p>
      </div>
      <WideTable label="Classes of the next season" className="w-full">
        <caption className="sr-only">Classes and teams in the next season</caption>
        <thead>
          <tr className="border-b border-hair text-left text-[12px] text-ink-3">
            {["Now", "In the next season", "Name", "Students"].map((title) => (
              <th key={title} className="py-1 pr-3 font-[500]">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {cohorts.map(({ key, name, kind, site, students }) => {
            const plan = own.cohorts.find((cohort) => cohort.key === key);
            const isKept = plan !== undefined && plan.name !== null;
            const places = kept
              .filter((cohort) => cohort.key.startsWith(`${kind}:`))
              .map((cohort) => ({
                value: cohort.key,
                name: cohort.key === key ? "stay in it" : `go to ${cohort.name ?? ""}`,
              }));
            const left = own.students === "left for the roster" && kind === "class";
            return (
              <tr key={key} className="border-b border-hair-soft last:border-b-0">
                <td className="py-1.5 pr-3">
                  <b className="font-[620]">{name}</b>
                  <span className="block text-[13px] text-ink-3">
                    {[kind === "class" ? "" : kind, site, counted(students, "student")]
                      .filter((part) => part !== "")
                      .join(", ")}
                  </span>
                </td>
                <td className="py-1.5 pr-3">
                  <Choice
                    small
                    label={`${name} in the next season`}
                    value={isKept ? "kept" : "dropped"}
                    onChange={(value) =>
                      change(key, value === "kept" ? { name } : { name: null, students: "" })
                    }
                    options={[
                      { value: "kept", name: "goes on" },
                      { value: "dropped", name: "is dropped" },
                    ]}
                  />
                </td>
                <td className="py-1.5 pr-3">
                  {isKept && (
                    <input
                      aria-label={`Name of ${name} in the next season`}
                      value={plan.name ?? ""}
                      onChange={(event) => change(key, { name: event.target.value })}
                      className="h-7 w-56 rounded border border-hair bg-panel px-2"
                    />
                  )}
                </td>
                <td className="py-1.5 pr-3">
                  {left ? (
                    <span className="text-ink-3">by the new roster</span>
                  ) : (
                    <Choice
                      small
                      label={`Students of ${name}`}
                      value={plan?.students ?? ""}
                      onChange={(value) => change(key, { students: value })}
                      options={[
                        ...places,
                        {
                          value: "",
                          name: kind === "class" ? "by the new roster" : "leave it: begins empty",
                        },
                      ]}
                    />
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </WideTable>
      {cohorts.length === 0 && (
        <p className="text-ink-2">There is no class yet that could go on.</p>
      )}
      <div className="mt-3 flex gap-2">
        <Button look="go" onClick={() => setPreview(true)}>
          Preview: open {own.label}
        </Button>
        <Button onClick={onClose}>Close</Button>
      </div>
      {preview && (
        <Preview current={current} wanted={own} onClose={() => setPreview(false)} onDone={onDone} />
      )}
    </Panel>
  );
}

function Preview({
  current,
  wanted,
  onClose,
  onDone,
}: {
  current: string;
  wanted: SeasonWanted;
  onClose: () => void;
  onDone: (sentence: string) => void;
}) {
  const { data, error, refetch } = usePlannedSeasonQuery(wanted);
  const [open, opening] = useOpenSeasonMutation();
  const asked = useRef<{ abort: () => void }>(undefined);
  const run = async (): Promise<void> => {
    if (data === undefined) return;
    const request = open({ wanted, version: data.version });
    asked.current = request;
    const answer = await request;
    if (answer.data === undefined) void refetch();
    else
      onDone(
        `${wanted.label} is the current season, opened by round ${answer.data.round} with ${counted(answer.data.listsMade, "new list")}. Read its roster next. It can be taken back under Changes, past rounds.`,
      );
  };
  return (
    <Modal wide title={`Open ${wanted.label}`} onClose={onClose}>
      <FaultLine error={error} />
      {error === undefined && data === undefined && <Loading what="what it would do" />}
      {error === undefined && data !== undefined && (
        <div className="flex flex-col gap-3">
          <p>
            <b className="font-[640]">
              {counted(data.closes, "list")} of {current}
            </b>{" "}
            {data.closes === 1 ? "is" : "are"} closed.{" "}
            <b className="font-[640]">{counted(data.students, "student")}</b>{" "}
            {data.students === 1 ? "is" : "are"} taken along, {data.placed} of them with a class or
            team. Everybody on the new lists comes from what is known today:{" "}
            <b className="font-[640]">{counted(data.totals.joins, "place")}</b> on lists.
          </p>
          <ListDeltas lists={data.lists} />
          <FaultLine error={opening.error} />
          {opening.isLoading ? (
            <Progress what={`Opening ${wanted.label}`} onStop={() => asked.current?.abort()} />
          ) : (
            <div className="flex justify-end gap-2">
              <Button onClick={onClose}>Back</Button>
              <Button look="go" autoFocus onClick={() => void run()}>
                Open {wanted.label} and close {counted(data.closes, "list")}
              </Button>
            </div>
          )}
        </div>
      )}
      {error !== undefined && (
        <div className="mt-3 flex justify-end">
          <Button onClick={onClose}>Back</Button>
        </div>
      )}
    </Modal>
  );
}
