import { expect, test } from "vitest";
import { passwordFault } from "./passwordFault";

const ABOUT = ["Juno Abara", "juno.abara@copperwheel.example", "Copperwheel Circus School"];

test.each(["three wet umbrellas", "copperwheel-demo", "Äpfel im Regen", "x7!kq-92mmPl"])(
  "%j will do",
  (password) => {
    expect(passwordFault(password, ABOUT)).toBeUndefined();
  },
);
test.each<[string, RegExp]>([
  ["short", /at least 10/],
  ["", /at least 10/],
  ["aaaaaaaaaaaaaaa", /same few signs/],
  ["abababababab", /same few signs/],
  ["password123456", /tried first/],
  ["Juno.Abara.2026", /tried first/],
  ["copperwheel1", /tried first/],
  ["x".repeat(201), /at most 200/],
])("%j will not", (password, sentence) => {
  expect(passwordFault(password, ABOUT)).toMatch(sentence);
});
