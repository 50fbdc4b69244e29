import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import type { DateWatch } from "@amigo/contract/dateWatches";
import type { ImportWishes } from "@amigo/contract/dateImport";
import {
  useDateWatchesQuery,
  useEndWatchMutation,
  useReadWatchMutation,
  useWatchDatesMutation,
} from "../data/dates";
import { useMe } from "../data/me";
import { t } from "../texts/dates";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";
import { ImportFound } from "./ImportFound";
import { WishFields } from "./WishFields";

/** Dates from web addresses that Amigo looks at by itself: those that are watched, and another one. */
export function WatchImport() {
  const { data: watches, error } = useDateWatchesQuery();
  const [search, setSearch] = useSearchParams();
  const review = (id: string): void => setSearch({ watch: id });
  const reviewed = watches?.find(({ id }) => id === search.get("watch"));
  if (error !== undefined) return <FaultLine error={error} />;
  if (watches === undefined) return <Loading what={t("dates.watchedAddresses")} />;
  return (
    <>
      {watches.length > 0 && (
        <Panel className="mb-4 max-w-3xl px-[18px] py-3.5">
          <h2 className="mb-1">{t("dates.watchedAddresses")}</h2>
          <ul>
            {watches.map((watch) => (
              <Watched key={watch.id} watch={watch} onReview={() => review(watch.id)} />
            ))}
          </ul>
        </Panel>
      )}
      {reviewed === undefined ? (
        <WatchForm onMade={review} />
      ) : (
        <Review key={reviewed.id} watch={reviewed} onClose={() => setSearch({ from: "web" })} />
      )}
    </>
  );
}

function Watched({ watch, onReview }: { watch: DateWatch; onReview: () => void }) {
  const { timeZone } = useMe();
  const [end, { error, isLoading }] = useEndWatchMutation();
  const { name, address, waiting, lookedAt, fault } = watch;
  return (
    <li className="border-t border-hair-soft py-2.5 first:border-t-0">
      <div className="flex flex-wrap items-start justify-between gap-2">
        <div className="min-w-0 flex-1 basis-60">
          <b className="font-[620]">{name}</b>
          <span className="block font-mono text-[13px] text-ink-2 wrap-anywhere">{address}</span>
          <span className="block text-[13px] text-ink-2">
            {lookedAt === null
              ? t("dates.notLookedAtYet")
              : t("dates.lookedAt", { when: moment(lookedAt, timeZone) })}
          </span>
          {fault !== "" && (
            <span className="block text-[13px]">
              <Warn>{fault}</Warn>
            </span>
          )}
        </div>
        <div className="flex flex-wrap gap-2">
          <Button look={waiting > 0 ? "go" : "plain"} onClick={onReview}>
            {waiting > 0 ? t("dates.reviewChanges", { count: waiting }) : t("dates.readNow")}
            <span className="sr-only"> {name}</span>
          </Button>
          <Button disabled={isLoading} onClick={() => void end(watch.id)}>
            {t("dates.stopWatching")}
            <span className="sr-only"> {name}</span>
          </Button>
        </div>
      </div>
      <FaultLine error={error} />
    </li>
  );
}

function WatchForm({ onMade }: { onMade: (id: string) => void }) {
  const [address, setAddress] = useState("");
  const [wishes, setWishes] = useState<ImportWishes>({ name: "", list: "", group: "" });
  const [watch, { error, isLoading }] = useWatchDatesMutation();
  return (
    <Panel className="max-w-3xl p-3 md:p-4">
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void watch({ address, ...wishes }).then(({ data }) => data && onMade(data.id));
        }}
      >
        <Field
          label={t("dates.webAddressOfDates")}
          help={t("dates.webAddressOfDatesHelp")}
          required
          maxLength={2000}
          value={address}
          onChange={(event) => setAddress(event.target.value)}
        />
        <WishFields wishes={wishes} set={(part) => setWishes({ ...wishes, ...part })} />
        <div>
          <Button
            type="submit"
            look="go"
            disabled={address.trim() === "" || wishes.name.trim() === "" || isLoading}
          >
            {t("dates.watchAndLook")}
          </Button>
        </div>
        <FaultLine error={error} />
      </form>
    </Panel>
  );
}

/** What a watched address has now beside Amigo's dates. */
function Review({ watch, onClose }: { watch: DateWatch; onClose: () => void }) {
  const { id, name } = watch;
  const [read, { data, error, isLoading }] = useReadWatchMutation();
  useEffect(() => {
    void read({ id, plan: "" });
  }, [id, read]);
  return (
    <section aria-label={name}>
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <h2>{name}</h2>
        <Button onClick={onClose}>{t("dates.watchAnother")}</Button>
      </div>
      <FaultLine error={error} />
      {data === undefined && error === undefined && <Loading what={t("dates.theDates")} />}
      {data !== undefined && (
        <ImportFound
          found={data}
          isBusy={isLoading}
          onConfirm={() => void read({ id, plan: data.plan })}
        />
      )}
    </section>
  );
}
