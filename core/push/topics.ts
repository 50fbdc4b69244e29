import { message, type Message } from "@amigo/language/message";

/** What staff can be told of at once on their own devices. */
export const PUSH_TOPICS = ["held mail", "request", "safety check", "address"] as const;

export type PushTopic = (typeof PUSH_TOPICS)[number];

/** Something new that is told: what it is about, by a mark of its own, and a name for it where there is one. */
export interface News {
  topic: PushTopic;
  mark: string;
  /** A list's title or the like; empty where it would name a person. */
  name: string;
}

/** A notice as a device shows it. */
export interface Notice {
  title: Message;
  /** Up to three names of what it is about. */
  names: string[];
  /** The page that opens by it. */
  path: string;
}

const TITLES: Record<PushTopic, string> = {
  "held mail": "push.heldMail",
  request: "push.request",
  "safety check": "push.safetyCheck",
  address: "push.address",
};

const PATHS: Record<PushTopic, string> = {
  "held mail": "/mail/held",
  request: "/requests",
  "safety check": "/changes",
  address: "/reach",
};

/** How many things a notice names. */
const MOST_NAMES = 3;

/** Returns one notice for all news of a topic. */
export function noticeOf(topic: PushTopic, news: readonly News[]): Notice {
  const names = [...new Set(news.map(({ name }) => name).filter((name) => name !== ""))];
  return {
    title: message(TITLES[topic] as "push.heldMail", { count: news.length }),
    names: names.slice(0, MOST_NAMES),
    path: PATHS[topic],
  };
}
