import { useState } from "react";
import { Link } from "react-router";
import type { RequestLine } from "@amigo/contract/requests";
import { useMe } from "../data/me";
import {
  useDecideRequestMutation,
  useRequestEffectQuery,
  useRequestsQuery,
  useWithdrawRequestMutation,
} from "../data/requests";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Empty, FaultLine, Loading, PageHead, Panel } from "../ui/Page";
import { Minus, Plus } from "../ui/Signs";
import { dayOf, moment, today } from "../ui/time";
import { DayField } from "../ui/DayField";
import { t } from "../texts/requests";

/** Requests for exceptions to the house rules: those to decide on, or one's own with their results. */
export function RequestsPage() {
  const { data: requests, error } = useRequestsQuery();
  const [said, setSaid] = useState("");
  const open = requests?.filter(({ state }) => state === "open") ?? [];
  const done = requests?.filter(({ state }) => state !== "open") ?? [];
  return (
    <>
      <PageHead title={t("requests.requests")} line={t("requests.exceptionsFromYourRulesFor")} />
      <FaultLine error={error} />
      {said !== "" && (
        <p role="status" className="mb-3 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
          {said}
        </p>
      )}
      {requests === undefined ? (
        error === undefined && <Loading what={t("requests.theRequests")} />
      ) : requests.length === 0 ? (
        <Panel>
          <Empty title={t("requests.noRequests")}>
            <p>{t("requests.whenARuleOfYour")}</p>
          </Empty>
        </Panel>
      ) : (
        <div className="flex max-w-4xl flex-col gap-3">
          {open.length === 0 && <p className="text-ink-2">{t("requests.noOpenRequests")}</p>}
          {open.map((request) => (
            <Open key={request.id} request={request} onDone={setSaid} />
          ))}
          {done.length > 0 && (
            <Panel>
              <h2 className="px-[18px] pt-3">{t("requests.answered")}</h2>
              <ul>
                {done.map((request) => (
                  <Done key={request.id} request={request} />
                ))}
              </ul>
            </Panel>
          )}
        </div>
      )}
    </>
  );
}

function Title({ request }: { request: RequestLine }) {
  return request.listId === null ? (
    <b className="font-[640]">{request.title}</b>
  ) : (
    <Link to={`/lists/${request.listId}`} className="font-[640] hover:underline">
      {request.title}
    </Link>
  );
}

function Open({ request, onDone }: { request: RequestLine; onDone: (sentence: string) => void }) {
  const me = useMe();
  const [withdraw, withdrawing] = useWithdrawRequestMutation();
  return (
    <Panel className="px-[18px] py-3.5">
      <p>
        <Title request={request} />: {request.sentence}
      </p>
      <p className="text-[13px] text-ink-2">
        {t("requests.asked", {
          isMine: String(request.mine),
          by: request.by,
          when: moment(request.at, me.timeZone),
          why: request.why,
          addresses: request.addresses,
        })}
      </p>
      {request.mayDecide ? (
        <Decide request={request} onDone={onDone} />
      ) : (
        <p className="mt-1 text-[13px] text-ink-3">{t("requests.aCoordinatorHasBeenAsked")}</p>
      )}
      {request.mine && (
        <Button
          look="quiet"
          className="mt-1"
          disabled={withdrawing.isLoading}
          onClick={() => void withdraw(request.id)}
        >
          {t("requests.withdraw")}
        </Button>
      )}
      <FaultLine error={withdrawing.error} />
    </Panel>
  );
}

function Decide({ request, onDone }: { request: RequestLine; onDone: (sentence: string) => void }) {
  const me = useMe();
  const { data: effect, error } = useRequestEffectQuery(request.id);
  const [decide, deciding] = useDecideRequestMutation();
  const [until, setUntil] = useState("");
  const [word, setWord] = useState("");
  const answer = async (yes: boolean): Promise<void> => {
    const { data } = await decide({ id: request.id, yes, until: yes ? until : "", word });
    if (data !== undefined) onDone(`${request.title}: ${data.done}`);
  };
  return (
    <div className="mt-2 border-t border-hair-soft pt-2">
      <FaultLine error={error} />
      {effect !== undefined && (
        <p className="mb-2 flex flex-wrap items-baseline gap-x-2">
          <span className="text-ink-3">{t("requests.ifYouApprove")}</span>
          {effect.sentences.map((sentence) => (
            <span key={sentence}>{sentence}</span>
          ))}
          <Plus count={effect.joins} />
          <Minus count={effect.leaves} />
        </p>
      )}
      {effect !== undefined && effect.waiting.length > 0 && (
        <details open={effect.waiting.length <= 12} className="mb-2 text-[13px]">
          <summary className="w-fit cursor-pointer font-[560]">
            {t("requests.addressesWaitForAYes", { waiting: effect.waiting.length })}
          </summary>
          <ul className="mt-1 max-h-48 overflow-auto rounded-md border border-hair px-3 py-1">
            {effect.waiting.map(({ address, name }) => (
              <li key={address}>
                {name !== "" && <b className="font-[560]">{name} </b>}
                <Address>{address}</Address>
              </li>
            ))}
          </ul>
        </details>
      )}
      <div className="flex flex-wrap items-end gap-2">
        <DayField
          label={t("requests.untilOptional")}

          min={today(me.timeZone)}
          value={until}
          onChange={setUntil}
          className="w-48"
        />
        <Field
          label={t("requests.noteToWhoeverAsked")}
          value={word}
          onChange={(event) => setWord(event.target.value)}
          maxLength={500}
          className="min-w-56 flex-1"
        />
        <Button
          look="go"
          disabled={deciding.isLoading || effect === undefined}
          onClick={() => void answer(true)}
        >
          {until === ""
            ? t("requests.approve")
            : t("requests.approveUntil", { when: dayOf(until) })}
        </Button>
        <Button disabled={deciding.isLoading} onClick={() => void answer(false)}>
          {t("requests.decline")}
        </Button>
      </div>
      <FaultLine error={deciding.error} />
    </div>
  );
}

const STATES = {
  granted: t("requests.approved"),
  refused: t("requests.declined"),
  withdrawn: "withdrawn",
  open: "",
} as const;

function Done({ request }: { request: RequestLine }) {
  const me = useMe();
  return (
    <li className="flex items-baseline gap-4 border-t border-hair-soft px-[18px] py-2">
      <span className="min-w-0 flex-1">
        <Title request={request} />: {request.sentence}{" "}
        <span className="text-[13px] text-ink-2">
          {request.by}, {moment(request.at, me.timeZone)}
        </span>
      </span>
      <span
        className={`text-[13px] ${request.state === "granted" ? "text-leaf-ink" : request.state === "refused" ? "text-brick" : "text-ink-3"}`}
      >
        {STATES[request.state]}
        {request.until === "" ? "" : t("requests.until", { when: dayOf(request.until) })}
        {request.state === "withdrawn" ? "" : `, ${request.decidedBy}`}
        {request.word === "" ? "" : `: ${request.word}`}
      </span>
    </li>
  );
}
