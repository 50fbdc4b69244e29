import { describe, expect, test } from "vitest";
import { say } from "@amigo/language/say";
import { noticeOf, PUSH_TOPICS, type News } from "./topics";

const news = (count: number, name = ""): News[] =>
  Array.from({ length: count }, (_, at) => ({
    topic: "held mail",
    mark: `held ${at}`,
    name: name === "" ? "" : `${name} ${at}`,
  }));

describe("a notice on somebody's device", () => {
  test.each(PUSH_TOPICS)("about %s says how many, and opens a page", (topic) => {
    const one = noticeOf(topic, news(1));
    const many = noticeOf(topic, news(12));
    expect(say(one.title)).not.toBe(say(many.title));
    expect(say(many.title)).toContain("12");
    expect(one.path).toMatch(/^\/[a-z/]+$/);
  });

  test("names three things at most, each once", () => {
    expect(noticeOf("held mail", news(5, "List")).names).toEqual(["List 0", "List 1", "List 2"]);
    expect(noticeOf("held mail", [...news(1, "List"), ...news(1, "List")]).names).toEqual([
      "List 0",
    ]);
  });
});
