import { useState, type FormEvent } from "react";
import { Link, useSearchParams } from "react-router";
import { PROOFS } from "@amigo/core/posting/mailToJudge";
import { useTryAllQuery } from "../data/lists";
import { Address } from "../ui/Address";
import { AddressToTry } from "../posts/AddressToTry";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { OUTCOMES, PROOF_CHOICES } from "../posts/outcomes";
import { Empty, FaultLine, Loading, PageHead, Panel } from "../ui/Page";
import { t } from "../texts/lists";
import type { VerdictLine } from "@amigo/contract/tries";

/** What would happen to mail of one address on every list, and what its owner could see of each. */
export function TryAllPage() {
  const [search, setSearch] = useSearchParams();
  const address = search.get("address") ?? "";
  const proof = PROOFS.find((known) => known === search.get("proof")) ?? "none";
  const [typed, setTyped] = useState(address);
  const { data, error, isFetching } = useTryAllQuery({ address, proof }, { skip: address === "" });
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    setSearch({ address: typed.trim(), proof });
  };
  const tally =
    data === undefined
      ? []
      : (["goes out", "held", "returned", "dropped"] as const)
          .map((outcome) => ({
            outcome,
            count: data.lists.filter((list) => list.outcome === outcome).length,
          }))
          .filter(({ count }) => count > 0);
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <PageHead title={t("lists.tryAnAddress")} line={t("lists.seeWhatHappensToMail")} />
      <form className="mb-3 flex flex-wrap items-center gap-2" onSubmit={submit}>
        <AddressToTry autoFocus value={typed} onChange={setTyped} className="w-80 max-w-full" />
        <Choice
          label={t("lists.theMailComes")}
          value={proof === "confirmed" ? "none" : proof}
          onChange={(value) => setSearch({ address: typed.trim(), proof: value })}
          options={PROOF_CHOICES}
        />
        <Button look="go" type="submit" disabled={typed.trim() === ""}>
          {t("lists.tryOnAllLists")}
        </Button>
        {data !== undefined && (
          <p role="status" className="text-ink-2">
            <b className="font-[620] text-ink">{data.who}</b>:{" "}
            {tally
              .map(({ outcome, count }) =>
                t("lists.on", { result: OUTCOMES[outcome].words.toLowerCase(), count }),
              )
              .join(", ")}
          </p>
        )}
      </form>
      <FaultLine error={error} />
      {address === "" ? (
        <Empty title={t("lists.typeAnAddress")}>
          <p>{t("lists.anybodysAFamilysACoachs")}</p>
        </Empty>
      ) : data === undefined ? (
        error === undefined && isFetching && <Loading what={t("lists.theVerdicts")} />
      ) : data.lists.length === 0 ? (
        <Empty title={t("lists.thereIsNoListYet")}>
          <p>{t("lists.listsComeWithTheFirst")}</p>
        </Empty>
      ) : (
        <Panel scrolls={t("lists.verdicts")} className="lg:min-h-0 lg:flex-1">
          <ResultsTable data={data} />
        </Panel>
      )}
    </div>
  );
}

function Yes({ is }: { is: boolean }) {
  return (
    <td className={`px-2 py-1.5 ${is ? "" : "text-ink-3"}`}>
      {is ? t("lists.yes") : t("lists.no")}
    </td>
  );
}

function ResultsTable({ data }: { data: { who: string; address: string; lists: VerdictLine[] } }) {
  return (
    <table className="wide-table w-full table-fixed text-[13px]">
      <caption className="sr-only">{t("lists.lists2", { lists: data.lists.length })}</caption>
      <thead>
        <tr className="sticky top-0 border-b border-hair bg-panel text-left text-[12px] text-ink-3">
          <th className="px-4 py-1.5 font-[500]">{t("lists.list")}</th>
          <th className="w-28 px-2 py-1.5 font-[500]">{t("lists.result")}</th>
          <th className="px-2 py-1.5 font-[500]">{t("lists.why")}</th>
          <th className="w-16 px-2 py-1.5 font-[500]">{t("lists.canFindIt")}</th>
          <th className="w-24 px-2 py-1.5 font-[500]">{t("lists.canSeeMembers")}</th>
          <th className="w-24 px-2 py-1.5 font-[500]">{t("lists.canReadArchive")}</th>
        </tr>
      </thead>
      <tbody>
        {data.lists.map(({ id, title, address: eachAddress, outcome, reaches, reason, sight }) => (
          <tr key={id} className="border-b border-hair-soft align-top last:border-b-0">
            <td className="px-4 py-1.5">
              <Link to={`/lists/${id}`} className="block truncate font-[620] hover:underline">
                {title}
              </Link>
              <Address className="text-ink-2">
                {eachAddress.slice(0, eachAddress.indexOf("@"))}
              </Address>
            </td>
            <td className={`px-2 py-1.5 ${OUTCOMES[outcome].look}`}>
              {OUTCOMES[outcome].sign} {OUTCOMES[outcome].words.toLowerCase()}
              {outcome === "goes out" && reaches === "leads" && (
                <span className="block text-ink-2">{t("lists.toTheLeads")}</span>
              )}
            </td>
            <td className="px-2 py-1.5 text-ink-2">{reason}</td>
            <Yes is={sight.finds} />
            <Yes is={sight.seesMembers} />
            <Yes is={sight.readsArchive} />
          </tr>
        ))}
      </tbody>
    </table>
  );
}
