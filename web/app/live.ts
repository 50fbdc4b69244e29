import { useEffect } from "react";
import { api } from "../data/api";
import { useStore } from "../data/store";

const TOPICS = {
  board: "board",
  rounds: "rounds",
  sources: "sources",
  posts: "posts",
  house: "house",
  people: "people",
  forms: "forms",
  intakes: "intakes",
  dates: "dates",
  shelf: "shelf",
} as const;

type Tag = (typeof TOPICS)[keyof typeof TOPICS];

/** How long what comes together is gathered, and how long a page waits at least before it asks again, in milliseconds. */
const TOGETHER = 150;
const APART = 1000;

/**
 * Fetches again what others, or Amigo itself, have changed. Only a page that is looked at listens: a browser has
 * few connections to one host, and tabs left open in the background must not take them all.
 */
export function useLive(): void {
  const dispatch = useStore();
  useEffect(() => {
    let events: EventSource | undefined;
    let slept = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let lastAsked = -Infinity;
    const waiting = new Set<Tag>();
    const ask = (tags: readonly Tag[]): void => {
      for (const tag of tags) waiting.add(tag);
      timer ??= setTimeout(
        () => {
          timer = undefined;
          lastAsked = performance.now();
          dispatch(api.util.invalidateTags([...waiting]));
          waiting.clear();
        },
        Math.max(TOGETHER, lastAsked + APART - performance.now()),
      );
    };
    const sleep = (): void => {
      events?.close();
      events = undefined;
      slept = true;
    };
    const wake = (): void => {
      if (events !== undefined || document.visibilityState !== "visible") return;
      // What changed since the page began, before it could listen, is told at once.
      events = new EventSource(`/api/events?age=${slept ? 0 : Math.ceil(performance.now())}`);
      events.addEventListener("changed", ({ data }) => {
        if (typeof data === "string" && data in TOPICS) ask([TOPICS[data as keyof typeof TOPICS]]);
      });
      if (slept) ask(Object.values(TOPICS));
    };
    const look = (): void => {
      if (document.visibilityState === "visible") wake();
      else sleep();
    };
    wake();
    document.addEventListener("visibilitychange", look);
    window.addEventListener("pagehide", sleep);
    window.addEventListener("pageshow", wake);
    return () => {
      sleep();
      clearTimeout(timer);
      document.removeEventListener("visibilitychange", look);
      window.removeEventListener("pagehide", sleep);
      window.removeEventListener("pageshow", wake);
    };
  }, [dispatch]);
}
