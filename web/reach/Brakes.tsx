import type { Reach } from "@amigo/contract/mail";
import { useDecideOnBrakeMutation } from "../data/mail";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { FaultLine, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";
import { t } from "../texts/reach";

/** Addresses that failed at once. A mail server's mistake is likely, so a coordinator decides before any of them is stopped. */
export function Brakes({ brakes }: { brakes: Reach["brakes"] }) {
  const me = useMe();
  const [decide, deciding] = useDecideOnBrakeMutation();
  return brakes.map(({ id, at, scope, about, words, addresses }) => (
    <Panel key={id} className="mb-3.5 border-l-4 border-l-marigold px-4 py-3">
      <h2>
        <Warn>
          {scope === "domain"
            ? t("reach.failedAtDomain", { addresses, about })
            : t("reach.failedOfMail", { addresses, about })}
        </Warn>
      </h2>
      <p className="mt-1">{t("reach.failedAtOnceMeans", { when: moment(at, me.timeZone) })}</p>
      <p className="mt-1 text-[13px] text-ink-2">{t("reach.theMailServerSaid", { words })}</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button
          look="go"
          disabled={deciding.isLoading}
          onClick={() => void decide({ id, decision: "resume" })}
        >
          {t("reach.keepSendingTo", { addresses })}
        </Button>
        <Button disabled={deciding.isLoading} onClick={() => void decide({ id, decision: "stop" })}>
          {t("reach.stopSendingTo", { addresses })}
        </Button>
      </div>
      <FaultLine error={deciding.error} />
    </Panel>
  ));
}
