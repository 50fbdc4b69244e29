import { useEffect, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { HeldLine } from "@amigo/contract/posts";
import { useMe } from "../data/me";
import { useHeldQuery } from "../data/posts";
import { Address } from "../ui/Address";
import { Empty, FaultLine, Loading, PageHead, Panel } from "../ui/Page";
import { moment } from "../ui/time";
import { DecideHeld } from "./DecideHeld";
import { Rich, t } from "../texts/mail";

/** Mail that waits for a lead's or helper's decision, each with why it was held. */
export function HeldPage() {
  const { data: held, error } = useHeldQuery();
  const [search] = useSearchParams();
  return (
    <>
      <PageHead
        title={t("mail.heldMail")}
        line={
          held === undefined
            ? ""
            : held.length === 0
              ? t("mail.nothingWaits")
              : t("mail.mailsForADecision", { held: held.length })
        }
      >
        <Link to="/mail" className="text-petrol underline underline-offset-2">
          {t("mail.allMail")}
        </Link>
      </PageHead>
      <FaultLine error={error} />
      {held === undefined ? (
        error === undefined && <Loading what={t("mail.heldMail2")} />
      ) : held.length === 0 ? (
        <Panel>
          <Empty title={t("mail.noMailIsHeld")}>
            <p>{t("mail.mailThatAListsRules")}</p>
          </Empty>
        </Panel>
      ) : (
        <ul className="flex max-w-4xl flex-col gap-3">
          {held.map((mail) => (
            <Held key={mail.id} mail={mail} isMeant={search.get("post") === mail.id} />
          ))}
        </ul>
      )}
    </>
  );
}

function Held({ mail, isMeant }: { mail: HeldLine; isMeant: boolean }) {
  const me = useMe();
  const [whole, setWhole] = useState(false);
  const place = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (isMeant) place.current?.scrollIntoView({ block: "center" });
  }, [isMeant]);
  const SHORT = 280;
  return (
    <li ref={place}>
      <Panel className={`px-[18px] py-3.5 ${isMeant ? "border-petrol" : ""}`}>
        <div className="flex items-baseline gap-3">
          <h2 className="min-w-0 flex-1 truncate">
            <Link to={`/mail/${mail.id}`} className="hover:underline">
              {mail.subject === "" ? t("mail.noSubject") : mail.subject}
            </Link>
          </h2>
          <span className="text-[13px] text-ink-3">{moment(mail.at, me.timeZone)}</span>
        </div>
        <p className="text-[13px] text-ink-2">
          <Rich
            id="mail.to"
            from={<b className="font-[620] text-ink">{mail.from}</b>}
            fromAddress={<Address>{mail.fromAddress}</Address>}
            lists={mail.lists.map(({ id, title }, at) => (
              <span key={id}>
                {at > 0 && ", "}
                <Link to={`/lists/${id}`} className="font-[560] hover:underline">
                  {title}
                </Link>
              </span>
            ))}
            attachments={mail.attachments}
          />
        </p>
        <p className="my-2 border-l-2 border-hair pl-3 whitespace-pre-wrap wrap-anywhere">
          {whole || mail.text.length <= SHORT ? mail.text : `${mail.text.slice(0, SHORT)} …`}
          {mail.text.length > SHORT && (
            <button
              type="button"
              className="ml-2 text-petrol underline underline-offset-2"
              onClick={() => setWhole(!whole)}
            >
              {whole ? t("mail.less") : t("mail.more")}
            </button>
          )}
        </p>
        <ol className="mb-2.5 list-decimal pl-[18px] text-[13px] text-ink-2">
          {mail.reasons.map((reason) => (
            <li key={reason}>{reason}</li>
          ))}
        </ol>
        {mail.mayDecide && <DecideHeld id={mail.id} />}
      </Panel>
    </li>
  );
}
