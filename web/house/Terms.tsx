import { useState } from "react";
import type { SeasonTerm } from "@amigo/contract/dates";
import { useChangeTermsMutation, useTermsQuery } from "../data/dates";
import { t } from "../texts/dates";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { DayField } from "../ui/DayField";
import { Field } from "../ui/Field";
import { FaultLine, Loading, Panel } from "../ui/Page";

/** The terms and holidays of the season, which are shown behind the dates. */
export function Terms() {
  const { data, error } = useTermsQuery();
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what={t("dates.theTerms")} />;
  return <TermsForm key={JSON.stringify(data)} stored={data} />;
}

function TermsForm({ stored }: { stored: SeasonTerm[] }) {
  const [terms, setTerms] = useState(stored);
  const [change, changing] = useChangeTermsMutation();
  const set = (index: number, part: Partial<SeasonTerm>): void =>
    setTerms(terms.map((term, at) => (at === index ? { ...term, ...part } : term)));
  const isSame = JSON.stringify(terms) === JSON.stringify(stored);
  return (
    <Panel className="max-w-4xl px-4 py-3.5">
      <h2>{t("dates.termsAndHolidays")}</h2>
      <p className="mb-2 text-[13px] text-ink-2">{t("dates.termsHelp")}</p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void change({ terms });
        }}
      >
        <ul>
          {terms.map((term, index) => (
            <li
              // A row has no name of its own until it is stored; rows are only added at the end.
              key={index}
              className="grid items-end gap-2 border-t border-hair-soft py-2 first:border-t-0 md:grid-cols-[minmax(0,1.4fr)_7rem_minmax(0,1fr)_minmax(0,1fr)_6rem]"
            >
              <Field
                label={t("dates.termName")}
                required
                maxLength={60}
                value={term.name}
                onChange={(event) => set(index, { name: event.target.value })}
              />
              <Choice
                label={t("dates.termKind")}
                value={term.kind}
                options={[
                  { value: "term", name: t("dates.term") },
                  { value: "holidays", name: t("dates.holidays") },
                ]}
                onChange={(kind) => set(index, { kind })}
                className="min-h-[34px]"
              />
              <DayField
                label={t("dates.firstDay")}
                required
                value={term.firstDay}
                onChange={(firstDay) => set(index, { firstDay })}
              />
              <DayField
                label={t("dates.lastDay")}
                required
                min={term.firstDay}
                value={term.lastDay}
                onChange={(lastDay) => set(index, { lastDay })}
              />
              <Button
                look="quiet"
                aria-label={t("dates.removeTerm", { name: term.name })}
                onClick={() => setTerms(terms.filter((_, at) => at !== index))}
              >
                {t("dates.remove")}
              </Button>
            </li>
          ))}
        </ul>
        <div className="mt-2 flex flex-wrap gap-2">
          <Button
            onClick={() => {
              const day = terms.at(-1)?.lastDay ?? "";
              setTerms([...terms, { name: "", kind: "holidays", firstDay: day, lastDay: day }]);
            }}
          >
            {t("dates.addTerm")}
          </Button>
          <Button type="submit" look="go" disabled={isSame || changing.isLoading}>
            {t("dates.saveTerms")}
          </Button>
        </div>
        <FaultLine error={changing.error} />
      </form>
    </Panel>
  );
}
