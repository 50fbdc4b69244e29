import { useState } from "react";
import type { MemberLists } from "@amigo/contract/member";
import { useNewAddressMutation } from "../data/member";
import { Rich, t } from "../texts/member";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Panel, FaultLine } from "../ui/Page";

const STATES = {
  works: "member.mailArrivesThere",
  bounced: "member.mailCameBack",
  "not written to yet": "member.nothingWasSentThereYet",
} as const;

export function Addresses({ own: item }: { own: MemberLists }) {
  const [address, setAddress] = useState("");
  const [name, { error, isLoading, isSuccess, reset }] = useNewAddressMutation();
  return (
    <section aria-label={t("member.myAddresses")}>
      <h2 className="mb-2">{t("member.myAddresses")}</h2>
      <Panel className="px-4 py-3">
        <ul>
          {item.addresses.map((line) => (
            <li key={line.address} className="py-1">
              <span className="mono wrap-anywhere">{line.address}</span>
              <span
                className={`block text-[13px] ${line.state === "bounced" ? "text-marigold-ink" : "text-ink-2"}`}
              >
                {t(STATES[line.state])}
              </span>
            </li>
          ))}
        </ul>
        {isSuccess ? (
          <p role="status" className="mt-2">
            <Rich id="member.aLinkWasMailedTo" address={<b>{address}</b>} address2={item.address} />{" "}
            <Button
              className="ms-2"
              onClick={() => {
                reset();
                setAddress("");
              }}
            >
              {t("member.good")}
            </Button>
          </p>
        ) : (
          <form
            className="mt-2 flex flex-wrap items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              void name(address);
            }}
          >
            <Field
              label={t("member.aNewOneInPlace", { address: item.address })}
              type="email"
              autoComplete="email"
              value={address}
              onChange={(event) => {
                setAddress(event.target.value);
                reset();
              }}
              className="min-w-56 flex-1"
            />
            <Button type="submit" disabled={address.trim() === "" || isLoading}>
              {t("member.mailALinkThere")}
            </Button>
          </form>
        )}
        <FaultLine error={error} />
      </Panel>
    </section>
  );
}
