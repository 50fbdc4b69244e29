import { useEffect } from "react";
import { api } from "../data/api";
import { useStore } from "../data/store";

const TOPICS = { board: "board", rounds: "rounds", sources: "sources", posts: "posts", house: "house", people: "people" } as const;

/** Fetches again what others, or Amigo itself, have changed. */
export function useLive(): void {
  const dispatch = useStore();
  useEffect(() => {
    const events = new EventSource("/api/events");
    const waiting = new Set<(typeof TOPICS)[keyof typeof TOPICS]>();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const flush = (): void => {
      timer = undefined;
      dispatch(api.util.invalidateTags([...waiting]));
      waiting.clear();
    };
    events.addEventListener("changed", ({ data }) => {
      if (typeof data !== "string" || !(data in TOPICS)) return;
      waiting.add(TOPICS[data as keyof typeof TOPICS]);
      timer ??= setTimeout(flush, 150);
    });
    return () => { events.close(); clearTimeout(timer); };
  }, [dispatch]);
}
