import { describe, expect, test } from "vitest";
import { gridAction } from "./gridKeys";

const press = (key: string, held: { ctrlKey?: boolean; shiftKey?: boolean } = {}) =>
  gridAction({ key, ctrlKey: false, metaKey: false, shiftKey: false, ...held }, 40);

describe("a key in a grid", () => {
  test.each([
    ["ArrowDown", 1, 0],
    ["ArrowUp", -1, 0],
    ["ArrowRight", 0, 1],
    ["ArrowLeft", 0, -1],
    ["PageDown", 15, 0],
    ["PageUp", -15, 0],
    ["Home", 0, -9],
    ["End", 0, 9],
  ])("%s moves by %i rows and %i columns", (key, rows, columns) => {
    expect(press(key)).toEqual({ does: "move", rows, columns, extend: false });
  });

  test.each([
    ["ArrowDown", 40, 0],
    ["ArrowUp", -40, 0],
    ["ArrowRight", 0, 9],
    ["Home", -40, -9],
    ["End", 40, 9],
  ])("Ctrl+%s moves to the edge", (key, rows, columns) => {
    expect(press(key, { ctrlKey: true })).toEqual({ does: "move", rows, columns, extend: false });
  });

  test("with Shift a move extends the selection", () => {
    expect(press("ArrowDown", { shiftKey: true })).toMatchObject({ extend: true });
  });

  test.each([
    ["z", {}, "undo"],
    ["Z", { shiftKey: true }, "redo"],
    ["y", {}, "redo"],
    ["d", {}, "fill down"],
    ["a", {}, "select all"],
  ])("Ctrl+%s", (key, held, does) => {
    expect(press(key, { ctrlKey: true, ...held })).toEqual({ does });
  });

  test.each([
    ["Enter", "edit"],
    ["F2", "edit"],
    ["Delete", "clear"],
    ["Backspace", "clear"],
    [" ", "approve"],
  ])("%j", (key, does) => {
    expect(press(key)).toEqual({ does });
  });

  test("a letter begins to type, and whatever else is pressed is the browser's", () => {
    expect(press("b")).toEqual({ does: "type", text: "b" });
    expect(press("é")).toEqual({ does: "type", text: "é" });
    expect(press("c", { ctrlKey: true })).toBeUndefined();
    expect(press("Escape")).toBeUndefined();
    expect(press("F5")).toBeUndefined();
  });
});
