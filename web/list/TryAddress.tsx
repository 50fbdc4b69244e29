import { useState, type FormEvent } from "react";
import { Link } from "react-router";
import type { Proof } from "@amigo/core/posting/mailToJudge";
import { AddressToTry } from "../posts/AddressToTry";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { OUTCOMES, PROOF_CHOICES } from "../posts/outcomes";
import { FaultLine, Panel } from "../ui/Page";
import { useTryMutation } from "../data/lists";
import { t } from "../texts/list";

/** "What happens if this person writes here?", answered by the same rules as real mail; and what they could see. */
export function TryAddress({ id }: { id: string }) {
  const [address, setAddress] = useState("");
  const [proof, setProof] = useState<Exclude<Proof, "confirmed">>("none");
  const [ask, { data, error, isLoading, reset }] = useTryMutation();
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    void ask({ id, address, proof });
  };
  return (
    <Panel className="px-[18px] py-3">
      <h2 className="mb-2">{t("list.tryAnAddress")}</h2>
      <form className="flex flex-wrap items-center gap-2" onSubmit={submit}>
        <AddressToTry
          value={address}
          onChange={(value) => {
            setAddress(value);
            reset();
          }}
          className="min-w-0 flex-1"
        />
        <Button type="submit" disabled={address.trim() === "" || isLoading}>
          {t("list.try")}
        </Button>
        <span className="w-full">
          <Choice
            small
            className="max-w-full"
            label={t("list.theMailComes")}
            value={proof}
            onChange={(value) => {
              setProof(value);
              reset();
            }}
            options={PROOF_CHOICES}
          />
        </span>
      </form>
      <FaultLine error={error} />
      {data !== undefined && (
        <div role="status" className="mt-2">
          <p>
            <b className={OUTCOMES[data.outcome].look}>
              {OUTCOMES[data.outcome].sign} {OUTCOMES[data.outcome].words}.
            </b>{" "}
            {whatThen(data)}
          </p>
          <ol className="list-decimal pl-[18px] text-[13px] text-ink-2">
            {data.reasons.map(({ rule, words, sentence }) => (
              <li key={`${rule} ${sentence}`}>
                {sentence} <span className="text-ink-3">({words})</span>
              </li>
            ))}
          </ol>
          <p className="mt-1.5 text-[13px] text-ink-2">{data.sight.reasons.join(" ")}</p>
          <Link
            to={`/lists/try?address=${encodeURIComponent(address.trim())}&proof=${proof}`}
            className="text-[13px] text-petrol underline underline-offset-2"
          >
            {t("list.onAllLists")}
          </Link>
        </div>
      )}
    </Panel>
  );
}

function whatThen({
  outcome,
  reaches,
  askSender,
  who,
}: {
  outcome: keyof typeof OUTCOMES;
  reaches: "members" | "leads";
  askSender: boolean;
  who: string;
}): string {
  if (outcome === "goes out")
    return reaches === "leads" ? t("list.theLeadsGetItAnd") : t("list.everyMemberGetsACopy");
  if (outcome === "held")
    return askSender ? t("list.getsALinkToSay", { who }) : t("list.aLeadOrHelperDecides");
  return outcome === "returned" ? t("list.wouldBeToldWhy", { who }) : t("list.nobodyIsTold");
}
