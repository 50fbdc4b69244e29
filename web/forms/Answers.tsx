import { useState } from "react";
import { Link } from "react-router";
import type { FormPage } from "@amigo/contract/forms";
import { useAnswersQuery, useDecideAnswerMutation } from "../data/forms";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Empty, FaultLine, Loading } from "../ui/Page";
import { SearchField } from "../ui/SearchField";
import { Rich, t } from "../texts/forms";
import { AnswersTable } from "./AnswersTable";

const STATES = [
  { value: "all", name: t("forms.all") },
  { value: "waiting", name: t("forms.toDecide") },
  { value: "accepted", name: t("forms.accepted") },
  { value: "unconfirmed", name: t("forms.notConfirmed") },
  { value: "refused", name: t("forms.declined") },
] as const;
const SORTS = [
  { value: "newest", name: t("forms.newestFirst") },
  { value: "child", name: t("forms.byChild") },
  { value: "class", name: t("forms.byClass") },
  { value: "guardian", name: t("forms.byGuardian") },
] as const;
const AT_ONCE = 100;

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
  if (data === undefined) return <Loading what={t("forms.theAnswers")} />;
  const nothing =
    form.counts.accepted + form.counts.waiting + form.counts.unconfirmed + form.counts.refused ===
    0;
  if (nothing)
    return (
      <Empty title={t("forms.noAnswersYet")}>
        <p>
          <Rich
            id="forms.handOutItsAddressOr"
            link={(chunks) => (
              <Link to="?show=share" className="text-petrol underline">
                {chunks}
              </Link>
            )}
          />
        </p>
      </Empty>
    );
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <div className="mb-2.5 flex flex-wrap items-center gap-2">
        <Choice
          label={t("forms.show")}
          value={state}
          options={STATES}
          onChange={(value) => narrow(() => setState(value))}
        />
        <Choice
          label={t("forms.sorted")}
          value={sort}
          options={SORTS}
          onChange={(value) => narrow(() => setSort(value))}
        />
        <SearchField
          label={t("forms.findAnAnswer")}
          placeholder={t("forms.childGuardianClass")}
          value={q}
          onChange={(value) => narrow(() => setQ(value))}
        />
        <span className="text-ink-3" role="status">
          {t("forms.answers", { total: data.total })}
        </span>
        <span className="ml-auto flex gap-3">
          <a
            href={`/api/forms/${form.id}/answers.csv`}
            className="text-petrol underline underline-offset-2"
          >
            {t("forms.exportAsCsv")}
          </a>
          {form.counts.accepted > 0 && (
            <Link
              to={`/sources/${form.source}`}
              className="text-petrol underline underline-offset-2"
            >
              {t("forms.asASheet")}
            </Link>
          )}
        </span>
      </div>
      <FaultLine error={deciding.error} />
      <AnswersTable data={data} form={form} deciding={deciding} decide={decide} />
      {data.total > AT_ONCE && (
        <div className="mt-2 flex items-center gap-2">
          <Button disabled={from === 0} onClick={() => setFrom(from - AT_ONCE)}>
            {t("forms.previous")}
          </Button>
          <Button disabled={from + AT_ONCE >= data.total} onClick={() => setFrom(from + AT_ONCE)}>
            {t("forms.next")}
          </Button>
          <span className="text-ink-3">
            {t("forms.toOf", {
              first: from + 1,
              last: Math.min(from + AT_ONCE, data.total),
              total: data.total,
            })}
          </span>
        </div>
      )}
    </div>
  );
}
