import { useEffect, useEffectEvent, useState } from "react";
import { useNavigate } from "react-router";
import { useSendDraftMutation } from "../data/drafts";
import type { OwnDraft } from "./useDraft";
import type { useReckoning } from "./useReckoning";
import type { useTypedRecipients } from "./useTypedRecipients";

export type When = "now" | "later";

/** Sends a draft: what was typed last becomes a recipient and is counted first, then the writer is asked what there is to ask. */
export function useSending(
  draft: OwnDraft,
  typed: ReturnType<typeof useTypedRecipients>,
  { asks, isCounted, isReady }: ReturnType<typeof useReckoning>,
  /** Whether files wait that no mail can carry: without them it would say less than its writer meant. */
  hasWaiting: boolean,
) {
  const navigate = useNavigate();
  const [send, sending] = useSendDraftMutation();
  const [asking, setAsking] = useState<When>();
  const [queued, setQueued] = useState<When>();
  const [at, setAt] = useState("");
  const submit = async (how: When, asked: readonly string[] = []): Promise<void> => {
    if (sending.isLoading || hasWaiting) return;
    const settled = typed.settle();
    if (settled === "wrong") return;
    // What was typed last must have been counted first; then it goes on by itself.
    if (settled === "made" || !isCounted) {
      setQueued(how);
      return;
    }
    if (!isReady) return;
    if (asks.some((ask) => !asked.includes(ask.id))) {
      setAsking(how);
      return;
    }
    setAsking(undefined);
    if (!(await draft.keep())) return;
    const { data } = await send({
      id: draft.id,
      how,
      asked: [...asked],
      ...(how === "later" ? { at: new Date(at).toISOString() } : {}),
    });
    if (data !== undefined)
      void navigate(data.post === null ? "/mail?show=drafts" : `/mail/${data.post}`);
  };
  const goOn = useEffectEvent((how: When) => {
    setQueued(undefined);
    void submit(how);
  });
  useEffect(() => {
    if (queued !== undefined && isCounted) goOn(queued);
  }, [queued, isCounted]);
  return {
    submit,
    sendTest: async (): Promise<void> => {
      if (await draft.keep()) await send({ id: draft.id, how: "test", asked: [] });
    },
    asking,
    setAsking,
    at,
    setAt,
    isSending: sending.isLoading,
    hasWaiting,
    error: sending.error,
    wasTested: sending.data?.outcome === "test",
  };
}
