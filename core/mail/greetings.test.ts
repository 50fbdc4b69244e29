import { describe, expect, test } from "vitest";
import { askNote, welcomeNote, type GreetingOf } from "./greetings";

const LIST: GreetingOf = { house: "Copperwheel Circus School", title: "Trapeze Two, guardians", address: "ml-trapeze2@lists.copperwheel.example", description: "", welcome: "" };

describe("a welcome", () => {
  test("finds the words where the list has none, and tells what the list is for", () => {
    const { subject, text } = welcomeNote({ ...LIST, description: "News of the class" });
    expect(subject).toBe("Welcome to Trapeze Two, guardians");
    expect(text).toContain("this address is on the list Trapeze Two, guardians (ml-trapeze2@lists.copperwheel.example) of Copperwheel Circus School");
    expect(text).toContain("News of the class");
  });

  test("in the list's own words has their parts filled in, and unknown ones left as they are", () => {
    const { text } = welcomeNote({ ...LIST, welcome: "Dear all,\nthis is {list} of {house}: {address} {secret}" });
    expect(text.startsWith("Dear all,\r\nthis is Trapeze Two, guardians of Copperwheel Circus School: ml-trapeze2@lists.copperwheel.example {secret}\r\n")).toBe(true);
  });

  test("a title can not bring a header line of its own", () => {
    expect(welcomeNote({ ...LIST, title: "Wire\r\nBcc: all@lettr.example" }).subject).not.toMatch(/[\r\n]/);
    expect(askNote({ ...LIST, title: "Wire\nBcc: x" }, "Juno\nAbara", "http://x").subject).not.toMatch(/[\r\n]/);
  });
});

test("a question names who asks, the list, the link, and that silence is a no", () => {
  const { subject, text } = askNote(LIST, "Juno Abara", "https://amigo.copperwheel.example/yes/t");
  expect(subject).toBe("Would you like to be on Trapeze Two, guardians?");
  for (const words of ["Juno Abara would like to put this address on the list", "https://amigo.copperwheel.example/yes/t", "without your yes nothing is sent to you"]) expect(text).toContain(words);
});
