import { useEffect, type ReactNode } from "react";
import { sentenceOf } from "../data/api";
import { t } from "../texts/ui";

/** The head of a page: its name, one line about it, its buttons. */
export function PageHead({
  title,
  line,
  children,
}: {
  title: string;
  line?: ReactNode;
  children?: ReactNode;
}) {
  useEffect(() => {
    document.title = t("ui.amigo", { title });
  }, [title]);
  return (
    <div className="mb-3 flex flex-wrap items-baseline gap-x-3.5 gap-y-2">
      <h1 className="wrap-anywhere">{title}</h1>
      <p className="min-w-0 text-ink-2">{line}</p>
      <div className="flex flex-wrap items-center gap-2 md:ml-auto">{children}</div>
    </div>
  );
}

/** A white panel. One that scrolls has a name, so that it can be reached and scrolled by keys. */
export function Panel({
  children,
  className = "",
  scrolls,
}: {
  children: ReactNode;
  className?: string;
  scrolls?: string;
}) {
  const reach = scrolls === undefined ? {} : { role: "region", "aria-label": scrolls, tabIndex: 0 };
  return (
    <div
      {...reach}
      className={`rounded-lg border border-hair bg-panel ${scrolls === undefined ? "" : "overflow-auto"} ${className}`}
    >
      {children}
    </div>
  );
}

/** What stands where there is nothing yet: why, and how to get the first one. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="mx-auto flex max-w-xl flex-col items-center gap-2 px-6 py-16 text-center">
      <h2>{title}</h2>
      <div className="text-ink-2">{children}</div>
    </div>
  );
}

/** A fault in words: what is wrong, where, what to do. */
export function FaultLine({ error }: { error: unknown }) {
  const sentence = sentenceOf(error);
  return sentence === undefined ? null : (
    <p role="alert" className="rounded-md border border-brick bg-brick-soft px-3 py-2 text-ink">
      <b className="text-brick">! </b>
      {sentence}
    </p>
  );
}

/** A page that can't be shown, with the reason. */
export function FaultPage({ error }: { error: unknown }) {
  return (
    <>
      <PageHead title={t("ui.thisPageCantBeShown")} />
      <FaultLine error={error} />
    </>
  );
}

export function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="px-4 py-10 text-center text-ink-3">
      {t("ui.loading", { what })}
    </p>
  );
}
