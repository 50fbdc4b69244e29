import type { z } from "zod";
import type { getForms } from "@amigo/contract/forms";
import { Link, useNavigate, type NavigateFunction } from "react-router";
import type { FormLine } from "@amigo/contract/forms";
import { useFormsQuery } from "../data/forms";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { Empty, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { dayOf } from "../ui/time";
import { WideTable } from "../ui/WideTable";
import { t } from "../texts/forms";

export const IS_WORDS: Record<FormLine["is"], string> = {
  open: "open",
  "not yet": t("forms.opensLater"),
  over: "closed",
};

/** The sign-up forms of the season: which are open, and what has come in. */
export function FormsPage() {
  const navigate = useNavigate();
  const { data, error } = useFormsQuery();
  if (error !== undefined) return <FaultPage error={error} />;
  if (data === undefined) return <Loading what={t("forms.theForms")} />;
  return (
    <div>
      <FormsHead data={data} navigate={navigate} />
      {data.forms.length === 0 ? (
        <Empty title={t("forms.letFamiliesTellYouThemselves")}>
          <p>{t("forms.aFormAsksForThe")}</p>
        </Empty>
      ) : (
        <Panel>
          <WideTable label={t("forms.forms2")} className="w-full">
            <thead>
              <tr className="border-b border-hair text-left text-[12px] text-ink-3">
                {[
                  t("forms.form"),
                  t("forms.address"),
                  t("forms.open"),
                  t("forms.accepted"),
                  t("forms.toDecide"),
                  t("forms.notConfirmed"),
                ].map((title) => (
                  <th key={title} className="px-4 py-1.5 font-[500]">
                    {title}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {data.forms.map(({ id, title, url, by, is, closesOn, counts }) => (
                <tr
                  key={id}
                  className="border-b border-hair-soft align-baseline last:border-b-0 hover:bg-sunk"
                >
                  <td className="px-4 py-2">
                    <Link to={`/forms/${id}`} className="font-[620] hover:underline">
                      {title}
                    </Link>
                    <span className="block text-[13px] text-ink-3">
                      {t("forms.madeBy", { by })}
                    </span>
                  </td>
                  <td className="px-4 py-2">
                    <Address>{url.replace(/^https?:\/\//, "")}</Address>
                  </td>
                  <td className="px-4 py-2">
                    {IS_WORDS[is]}
                    {is === "open" && closesOn !== "" && (
                      <span className="block text-[13px] text-ink-3">
                        {t("forms.until", { when: dayOf(closesOn) })}
                      </span>
                    )}
                  </td>
                  <td className="px-4 py-2">{counts.accepted}</td>
                  <td className="px-4 py-2">
                    {counts.waiting === 0 ? "–" : <Warn>{counts.waiting}</Warn>}
                  </td>
                  <td className="px-4 py-2 text-ink-2">{counts.unconfirmed}</td>
                </tr>
              ))}
            </tbody>
          </WideTable>
        </Panel>
      )}
    </div>
  );
}

function FormsHead({
  data,
  navigate,
}: {
  data: z.output<typeof getForms.answer>;
  navigate: NavigateFunction;
}) {
  return (
    <PageHead
      title={t("forms.signUpForms")}
      line={
        data.forms.length === 0
          ? t("forms.noneYet")
          : t("forms.forms", { forms: data.forms.length })
      }
    >
      <Button look="go" onClick={() => void navigate("/forms/new")}>
        {t("forms.makeAForm")}
      </Button>
    </PageHead>
  );
}
