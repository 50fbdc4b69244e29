import { useState, useRef, type Dispatch, type SetStateAction } from "react";
import type { SeasonWanted } from "@amigo/contract/seasons";
import { usePlannedSeasonQuery, useOpenSeasonMutation } from "../data/edits";
import { Rich, t } from "../texts/house";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { ListDeltas } from "../edits/ListDeltas";
import { Modal } from "../ui/Modal";
import { Panel, FaultLine, Loading } from "../ui/Page";
import { Progress } from "../ui/Progress";
import { WideTable } from "../ui/WideTable";

const STUDENTS = [
  { value: "one level up", name: t("house.oneLevelUp") },
  { value: "as they are", name: t("house.asTheyAre") },
  { value: "left for the roster", name: t("house.placedByTheNewRoster") },
] as const;

export function SeasonPlan({
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
  const [edited, setEdited] = useState(wanted);
  const [preview, setPreview] = useState(false);
  const change = (key: string, part: Partial<SeasonWanted["cohorts"][number]>): void =>
    setEdited({
      ...edited,
      cohorts: edited.cohorts.map((cohort) =>
        cohort.key === key ? { ...cohort, ...part } : cohort,
      ),
    });
  const kept = edited.cohorts.filter(({ name }) => name !== null);
  return (
    <Panel className="px-4 py-3.5">
      <h2>{t("house.theNextSeason")}</h2>
      <p className="mb-3 text-ink-2">{t("house.everybodyInTheRosterIs", { current })}</p>
      <SeasonAndStudents edited={edited} setEdited={setEdited} />
      <WideTable label={t("house.classesOfTheNextSeason")} className="w-full">
        <caption className="sr-only">{t("house.classesAndTeamsInThe")}</caption>
        <thead>
          <tr className="border-b border-hair text-left text-[12px] text-ink-3">
            {[t("house.now"), t("house.inTheNextSeason"), t("house.name"), t("house.students")].map(
              (title) => (
                <th key={title} className="py-1 pr-3 font-[500]">
                  {title}
                </th>
              ),
            )}
          </tr>
        </thead>
        <CohortRows cohorts={cohorts} edited={edited} kept={kept} change={change} />
      </WideTable>
      {cohorts.length === 0 && <p className="text-ink-2">{t("house.thereIsNoClassYet")}</p>}
      <div className="mt-3 flex gap-2">
        <Button look="go" onClick={() => setPreview(true)}>
          {t("house.previewOpen", { label: edited.label })}
        </Button>
        <Button onClick={onClose}>{t("house.close")}</Button>
      </div>
      {preview && (
        <Preview
          current={current}
          wanted={edited}
          onClose={() => setPreview(false)}
          onDone={onDone}
        />
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
        t("house.isTheCurrentSeasonOpened", {
          label: wanted.label,
          round: answer.data.round,
          listsMade: answer.data.listsMade,
        }),
      );
  };
  return (
    <Modal wide title={t("house.open", { label: wanted.label })} onClose={onClose}>
      <FaultLine error={error} />
      {error === undefined && data === undefined && <Loading what={t("house.whatItWouldDo")} />}
      {error === undefined && data !== undefined && (
        <div className="flex flex-col gap-3">
          <p>
            <Rich
              id="house.listsOfClosedTakenAlong"
              closes={data.closes}
              current={current}
              b={(chunks) => <b className="font-[640]">{chunks}</b>}
              students={
                <b className="font-[640]">{t("house.students2", { students: data.students })}</b>
              }
              students2={data.students}
              placed={data.placed}
              joins={
                <b className="font-[640]">{t("house.places", { joins: data.totals.joins })}</b>
              }
            />
          </p>
          <ListDeltas lists={data.lists} />
          <FaultLine error={opening.error} />
          {opening.isLoading ? (
            <Progress
              what={t("house.opening", { label: wanted.label })}
              onStop={() => asked.current?.abort()}
            />
          ) : (
            <div className="flex justify-end gap-2">
              <Button onClick={onClose}>{t("house.back")}</Button>
              <Button look="go" autoFocus onClick={() => void run()}>
                {t("house.openAndCloseLists", { label: wanted.label, closes: data.closes })}
              </Button>
            </div>
          )}
        </div>
      )}
      {error !== undefined && (
        <div className="mt-3 flex justify-end">
          <Button onClick={onClose}>{t("house.back")}</Button>
        </div>
      )}
    </Modal>
  );
}

function SeasonAndStudents({
  edited,
  setEdited,
}: {
  edited: SeasonWanted;
  setEdited: Dispatch<SetStateAction<SeasonWanted>>;
}) {
  return (
    <div className="mb-3 flex flex-wrap items-end gap-4">
      <Field
        label={t("house.season")}
        value={edited.label}
        onChange={(event) => setEdited({ ...edited, label: event.target.value })}
        className="w-36"
      />
      <p className="pb-1.5">
        <Rich
          id="house.studentsGo2"
          choice={
            <Choice
              small
              label={t("house.studentsGo")}
              value={edited.students}
              onChange={(students) => setEdited({ ...edited, students })}
              options={STUDENTS}
            />
          }
        />
      </p>
    </div>
  );
}

function CohortRows({
  cohorts,
  edited,
  kept,
  change,
}: {
  cohorts: { key: string; name: string; kind: string; site: string; students: number }[];
  edited: SeasonWanted;
  kept: { key: string; name: string | null; students: string }[];
  change: (key: string, part: Partial<SeasonWanted["cohorts"][number]>) => void;
}) {
  return (
    <tbody>
      {cohorts.map(({ key, name, kind, site, students }) => {
        const plan = edited.cohorts.find((cohort) => cohort.key === key);
        const isKept = plan !== undefined && plan.name !== null;
        const places = kept
          .filter((cohort) => cohort.key.startsWith(`${kind}:`))
          .map((cohort) => ({
            value: cohort.key,
            name:
              cohort.key === key
                ? t("house.stayInIt")
                : t("house.goTo", { name: cohort.name ?? "" }),
          }));
        const left = edited.students === "left for the roster" && kind === "class";
        return (
          <tr key={key} className="border-b border-hair-soft last:border-b-0">
            <td className="py-1.5 pr-3">
              <b className="font-[620]">{name}</b>
              <span className="block text-[13px] text-ink-3">
                {[kind === "class" ? "" : kind, site, t("house.students2", { students })]
                  .filter((part) => part !== "")
                  .join(", ")}
              </span>
            </td>
            <td className="py-1.5 pr-3">
              <Choice
                small
                label={t("house.inTheNextSeason2", { name })}
                value={isKept ? "kept" : "dropped"}
                onChange={(value) =>
                  change(key, value === "kept" ? { name } : { name: null, students: "" })
                }
                options={[
                  { value: "kept", name: t("house.goesOn") },
                  { value: "dropped", name: t("house.isDropped") },
                ]}
              />
            </td>
            <td className="py-1.5 pr-3">
              {isKept && (
                <input
                  aria-label={t("house.nameOfInTheNext", { name })}
                  value={plan.name ?? ""}
                  onChange={(event) => change(key, { name: event.target.value })}
                  className="h-7 w-56 rounded border border-hair bg-panel px-2"
                />
              )}
            </td>
            <td className="py-1.5 pr-3">
              {left ? (
                <span className="text-ink-3">{t("house.byTheNewRoster")}</span>
              ) : (
                <Choice
                  small
                  label={t("house.studentsOf", { name })}
                  value={plan?.students ?? ""}
                  onChange={(value) => change(key, { students: value })}
                  options={[
                    ...places,
                    {
                      value: "",
                      name:
                        kind === "class"
                          ? t("house.byTheNewRoster")
                          : t("house.leaveItBeginsEmpty"),
                    },
                  ]}
                />
              )}
            </td>
          </tr>
        );
      })}
    </tbody>
  );
}
