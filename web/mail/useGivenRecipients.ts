import { useEffect, useRef, useState } from "react";
import { useLocation, useSearchParams } from "react-router";
import type { DraftContent, Target } from "@amigo/contract/drafts";
import { useListQuery } from "../data/lists";
import { useMe } from "../data/me";
import { usePostQuery } from "../data/posts";
import { usePrivateListQuery } from "../data/private";
import { answerTo } from "./answerTo";

/** Puts into a new mail whom the page was opened for: a list, a private list, people who were ticked, or the writer of a mail to answer. */
export function useGivenRecipients(change: (part: Partial<DraftContent>) => void) {
  const me = useMe();
  const [search] = useSearchParams();
  const [given] = useState(() => ({
    to: search.get("to") ?? "",
    privately: search.get("private") ?? "",
    answer: search.get("answer") ?? "",
    toAll: search.get("all") !== null,
  }));
  const answered = usePostQuery(given.answer, { skip: given.answer === "" });
  const list = useListQuery(given.to, { skip: given.to === "" });
  const privately = usePrivateListQuery(given.privately, { skip: given.privately === "" });
  const ticked = (useLocation().state as { people?: Target[] } | null)?.people;
  const put = useRef(false);
  useEffect(() => {
    if (ticked === undefined || put.current) return;
    put.current = true;
    change({ to: ticked });
  }, [ticked, change]);
  useEffect(() => {
    const name = list.data?.title ?? privately.data?.name;
    if (name === undefined || put.current) return;
    put.current = true;
    change({
      to: [
        given.to !== ""
          ? { kind: "list", id: given.to, name }
          : { kind: "private", id: given.privately, name },
      ],
    });
  }, [list.data, privately.data, given, change]);
  useEffect(() => {
    const { data: post } = answered;
    if (post === undefined || put.current) return;
    put.current = true;
    change(answerTo(post, given.toAll, me.email));
  }, [answered, given, change, me.email]);
  const toList = given.to !== "" || given.privately !== "";
  return {
    /** Whether it goes to a list, so that writing begins with the subject. */
    toList,
    isFree: !toList && given.answer === "",
    error: list.error ?? privately.error ?? answered.error,
  };
}
