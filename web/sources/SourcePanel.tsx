import { useState } from "react";
import { say } from "@amigo/language/say";
import { scheduleInWords } from "@amigo/core/schedule/schedule";
import type { ReadingLineShape, SourceLine } from "@amigo/contract/sources";
import { useMe } from "../data/me";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { FaultLine, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";
import { useReadNowMutation } from "../data/sources";
import { Corrections } from "./Corrections";
import { NewAddress } from "./Posted";
import { SourceDialog } from "./SourceDialog";
import { t } from "../texts/sources";
import type { Me } from "@amigo/contract/accounts";

const WHERE = {
  upload: t("sources.aFileThatSomebodyReads"),
  pasted: t("sources.textThatSomebodyPasted"),
  watched: t("sources.aFileInTheWatched"),
  form: t("sources.aSignUpForm"),
  posted: t("sources.answersThatAFormTool"),
  web: t("sources.aWebAddress"),
} as const;

const FORMATS = [
  ["xlsx", "XLSX"],
  ["ods", "ODS"],
  ["csv", "CSV"],
] as const;

/** A source beside its sheet: its last reading, where its rows come from, when it is read next, what it does by itself. */
export function SourcePanel({ source, line }: { source: SourceLine; line: ReadingLineShape }) {
  const me = useMe();
  const [changing, setChanging] = useState(false);
  const [showing, setShowing] = useState(false);
  const [readNow, reading] = useReadNowMutation();
  const itself = source.kind === "watched" || source.kind === "web";
  return (
    <Panel className="px-4 py-3.5">
      <h2>
        {t("sources.reading2", { number: line.number, when: moment(line.readAt, me.timeZone) })}
      </h2>
      <p className="mt-1 text-[13px] text-ink-2">
        {t("sources.readByFrom", { readBy: line.readBy, fileName: line.fileName })}
      </p>
      {line.notes.length > 0 && (
        <ul className="mt-1.5 text-[13px] text-ink-2">
          {line.notes.map((note) => (
            <li key={note} className="border-t border-hair-soft py-1">
              {note}
            </li>
          ))}
        </ul>
      )}
      <SourceFacts source={source} itself={itself} me={me} />
      {!itself && source.kind !== "form" && source.kind !== "posted" && (
        <p className="mt-1.5 text-[13px] text-ink-3">{t("sources.whenTheSheetHasChanged")}</p>
      )}
      <FaultLine error={reading.error} />
      <div className="mt-2.5 flex flex-wrap gap-2">
        {(itself || source.kind === "posted") && (
          <Button disabled={reading.isLoading} onClick={() => void readNow(source.id)}>
            {reading.isLoading ? t("sources.reading3") : t("sources.readNow")}
          </Button>
        )}
        {source.kind !== "form" && (
          <Button onClick={() => setChanging(true)}>{t("sources.whereAndWhen")}</Button>
        )}
        {source.kind === "posted" && <NewAddress source={source} />}
        <Button look="quiet" onClick={() => setShowing(true)}>
          {t("sources.corrections")}
        </Button>
      </div>
      <section className="mt-2.5 border-t border-hair-soft pt-2 text-[13px]">
        <h3 className="font-[560]">{t("sources.handItBack")}</h3>
        <p className="text-ink-2">
          {t("sources.theSheetAsItIs", { answersBeside: String(source.answersBeside) })}
        </p>
        <p className="mt-1 flex gap-3">
          {FORMATS.map(([format, name]) => (
            <a
              key={format}
              href={`/api/sources/${source.id}/answered/${format}`}
              download
              className="font-[560] text-petrol underline underline-offset-2"
            >
              {name}
            </a>
          ))}
        </p>
      </section>
      {changing && <SourceDialog source={source} onClose={() => setChanging(false)} />}
      {showing && <Corrections only={source.name} onClose={() => setShowing(false)} />}
    </Panel>
  );
}

function SourceFacts({ source, itself, me }: { source: SourceLine; itself: boolean; me: Me }) {
  return (
    <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 border-t border-hair-soft pt-2 text-[13px]">
      <dt className="text-ink-3">{t("sources.from")}</dt>
      <dd>
        {WHERE[source.kind]}
        {itself && (
          <span className="block">
            <Address>{source.location}</Address>
          </span>
        )}
      </dd>
      <dt className="text-ink-3">{t("sources.missingInIt")}</dt>
      <dd>{source.whole ? t("sources.meansHavingLeft") : t("sources.meansNothingItOnlyAdds")}</dd>
      {itself && (
        <>
          <dt className="text-ink-3">{t("sources.read2")}</dt>
          <dd>
            {say(scheduleInWords(source.schedule))}
            {source.nextAt !== null && source.schedule?.when === "times" && (
              <span className="block text-ink-2">
                {t("sources.next2", { when: moment(source.nextAt, me.timeZone) })}
              </span>
            )}
          </dd>
          <dt className="text-ink-3">{t("sources.then")}</dt>
          <dd>{source.mode === "ask" ? t("sources.askMe") : t("sources.bringInStepByItself")}</dd>
        </>
      )}
      {source.triedAt !== null && (
        <>
          <dt className="text-ink-3">{t("sources.lastLook")}</dt>
          <dd>
            {moment(source.triedAt, me.timeZone)}
            <span className="block text-ink-2">
              {source.failures > 0 ? <Warn>{source.outcome}</Warn> : source.outcome}
            </span>
          </dd>
        </>
      )}
    </dl>
  );
}
