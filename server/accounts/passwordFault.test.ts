import { expect, test } from "vitest";
import { passwordFault } from "./passwordFault";

const ABOUT = ["Juno Abara", "juno.abara@copperwheel.example", "Copperwheel Circus School"];

test.each([
  "three wet umbrellas",
  "Äpfel im Regen tanzen",
  "x7!kq-92mmPl",
  "correct horse battery staple",
])("%j will do", (password) => {
  expect(passwordFault(password, ABOUT)).toBeUndefined();
});
test.each<[string, RegExp]>([
  ["short", /at least 10/],
  ["", /at least 10/],
  ["aaaaaaaaaaaaaaa", /easy to guess/],
  ["abababababab", /easy to guess/],
  ["password123456", /easy to guess/],
  ["P@ssw0rd2026", /easy to guess/],
  ["qwertzuiop1", /easy to guess/],
  ["1q2w3e4r5t", /easy to guess/],
  ["Juno.Abara.2026", /easy to guess/],
  ["copperwheel1", /easy to guess/],
  ["michael2010", /easy to guess/],
  ["24.12.2010!", /easy to guess/],
  ["iloveyou2026", /easy to guess/],
  ["x".repeat(201), /at most 200/],
])("%j will not", (password, sentence) => {
  expect(passwordFault(password, ABOUT)).toMatch(sentence);
});
