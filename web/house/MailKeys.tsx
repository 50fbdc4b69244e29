import type { MailHouse, MailKey } from "@amigo/contract/mail";
import {
  useChangeMailKeyMutation,
  useDropMailKeyMutation,
  useMakeMailKeyMutation,
} from "../data/mail";
import { useMe } from "../data/me";
import { t } from "../texts/house";
import { Button } from "../ui/Button";
import { FaultLine, Panel } from "../ui/Page";
import { dayOf, today } from "../ui/time";

const ALGORITHMS = { "rsa-sha256": "RSA", "ed25519-sha256": "Ed25519" } as const;

/** The keys that sign mail, and what to do to change them: make one, add its record, sign with it, remove the old one. */
export function MailKeys({ keys }: { keys: MailHouse["keys"] }) {
  const [make, making] = useMakeMailKeyMutation();
  const [change, changing] = useChangeMailKeyMutation();
  const [drop, dropping] = useDropMailKeyMutation();
  const busy = making.isLoading || changing.isLoading || dropping.isLoading;
  const has = (algorithm: MailKey["algorithm"], state: MailKey["state"]) =>
    keys.some((key) => key.algorithm === algorithm && key.state === state);
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>{t("house.keysThatSignMail")}</h2>
      <p className="mt-1 mb-2 text-[13px] text-ink-2">{t("house.keysThatSignMailHelp")}</p>
      <ul>
        {keys.map((key) => (
          <Key
            key={key.selector}
            of={key}
            busy={busy}
            onChange={(state) => void change({ selector: key.selector, state })}
            onRemove={() => void drop(key.selector)}
          />
        ))}
      </ul>
      <FaultLine error={making.error ?? changing.error ?? dropping.error} />
      <div className="mt-2.5 flex flex-wrap gap-3">
        {!has("rsa-sha256", "waiting") && (
          <Button disabled={busy} onClick={() => void make("rsa-sha256")}>
            {t("house.makeANewKey")}
          </Button>
        )}
        {!has("ed25519-sha256", "waiting") && !has("ed25519-sha256", "signing") && (
          <Button disabled={busy} onClick={() => void make("ed25519-sha256")}>
            {t("house.makeAnEd25519Key")}
          </Button>
        )}
      </div>
    </Panel>
  );
}

function Key({
  of: { selector, algorithm, state, since, published, keepUntil },
  busy,
  onChange,
  onRemove,
}: {
  of: MailKey;
  busy: boolean;
  onChange: (state: "signing" | "retired") => void;
  onRemove: () => void;
}) {
  const me = useMe();
  const isNeeded = keepUntil !== null && new Date(keepUntil) > new Date();
  const day = (iso: string) => dayOf(today(me.timeZone, new Date(iso)));
  const when = day(since);
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-t border-hair-soft py-2.5">
      <div className="min-w-[200px] flex-1">
        <p className="flex flex-wrap items-baseline gap-x-2">
          <b className="mono">{selector}</b>
          <span className="text-[13px] text-ink-2">{ALGORITHMS[algorithm]}</span>
        </p>
        <p className="text-[13px]">
          {state === "signing" && t("house.signsSince", { when })}
          {state === "waiting" &&
            (published === "there"
              ? t("house.readyToSign")
              : t("house.waitsForItsRecord", { when }))}
          {state === "retired" &&
            (isNeeded
              ? t("house.hasSignedKeepTheRecord", { until: day(keepUntil) })
              : t("house.hasSignedRemoveTheRecord"))}
        </p>
      </div>
      {state === "waiting" && (
        <Button
          look={published === "there" ? "go" : "plain"}
          disabled={busy || published !== "there"}
          onClick={() => onChange("signing")}
        >
          {t("house.signWith", { selector })}
        </Button>
      )}
      {state === "signing" && algorithm === "ed25519-sha256" && (
        <Button
          disabled={busy}
          onClick={() => onChange("retired")}
          aria-label={t("house.stopSigningWith", { selector })}
        >
          {t("house.stopSigning")}
        </Button>
      )}
      {(state === "waiting" || (state === "retired" && !isNeeded)) && (
        <Button
          disabled={busy}
          onClick={onRemove}
          aria-label={t("house.removeTheKey", { selector })}
        >
          {t("house.removeKey")}
        </Button>
      )}
    </li>
  );
}
