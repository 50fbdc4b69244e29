import type { ReactNode, Dispatch, SetStateAction } from "react";
import { Button } from "../ui/Button";
import { moment } from "../ui/time";
import { Rich, t } from "../texts/accounts";
import type { TwoStep } from "@amigo/contract/twoStep";
import type { Me } from "@amigo/contract/accounts";

export function Line({
  name,
  detail,
  children,
}: {
  name: string;
  detail: string;
  children: ReactNode;
}) {
  return (
    <li className="flex flex-wrap items-center gap-3 border-t border-hair-soft py-2">
      <span className="min-w-48 flex-1">
        <b className="font-[620]">{name}</b>
        <span className="block text-[13px] text-ink-2">{detail}</span>
      </span>
      {children}
    </li>
  );
}

export function PasskeyLine({
  id,
  name,
  lastUsed,
  since,
  me,
  setDoing,
}: {
  id: string;
  name: string;
  lastUsed: string | null;
  since: string;
  me: Me;
  setDoing: Dispatch<SetStateAction<Doing | undefined>>;
}) {
  return (
    <Line
      name={t("accounts.passkey", { name })}
      detail={
        lastUsed === null
          ? t("accounts.added", { when: moment(since, me.timeZone) })
          : t("accounts.addedLastUsed", {
              when: moment(since, me.timeZone),
              lastUsed: moment(lastUsed, me.timeZone),
            })
      }
    >
      <Button onClick={() => setDoing({ what: "remove passkey", id, name })}>
        <Rich
          id="accounts.removeThePasskey"
          name={name}
          span={(chunks) => <span className="sr-only">{chunks}</span>}
        />
      </Button>
    </Line>
  );
}

export function RecoveryCodesLine({
  data,
  setDoing,
}: {
  data: TwoStep;
  setDoing: Dispatch<SetStateAction<Doing | undefined>>;
}) {
  return (
    <Line
      name={t("accounts.recoveryCodes")}
      detail={
        data.recoveryCodes === 0
          ? t("accounts.noneLeftMakeNewOnes")
          : t("accounts.codesLeftForTheDay", { recoveryCodes: data.recoveryCodes })
      }
    >
      <Button onClick={() => setDoing({ what: "new codes" })}>{t("accounts.makeNewCodes")}</Button>
    </Line>
  );
}

export type Doing =
  | { what: "add app" | "remove app" | "add passkey" | "new codes" }
  | { what: "remove passkey"; id: string; name: string };
