import { expect, test } from "vitest";
import { Visitors } from "./visitors";

const MINUTE = 60_000;

function clock(mostOpen?: number) {
  let now = 0;
  const visitors = new Visitors(new Set(["192.0.2.5"]), () => now, mostOpen);
  return { visitors, pass: (milliseconds: number) => (now += milliseconds) };
}
const visitor = (id: string, remoteAddress: string) => ({ id, remoteAddress });

test("one network has twenty connections, in IPv6 the 64 bits that one household has; our own servers have no limit", () => {
  const { visitors } = clock();
  const come = (prefix: string, count: number, address: (at: number) => string) =>
    Array.from({ length: count }, (_, at) =>
      visitors.come(visitor(`${prefix}${at}`, address(at))),
    ).filter((answer) => answer !== null).length;
  expect(come("a", 25, () => "198.51.100.7")).toBe(5);
  expect(come("b", 25, (at) => `2001:db8:1:2::${at + 1}`)).toBe(5);
  expect(come("c", 25, (at) => `2001:db8:${at + 10}::1`)).toBe(0);
  expect(come("d", 25, () => "192.0.2.5")).toBe(0);
  expect(come("e", 25, () => "::ffff:127.0.0.1")).toBe(0);
  visitors.go(visitor("a0", "198.51.100.7"));
  visitors.go(visitor("a1", "198.51.100.7"));
  expect(visitors.come(visitor("again", "::ffff:198.51.100.7"))?.responseCode).toBe(421);
});

test("a connection that hands in nothing for ten minutes ends, one whose mail comes in at a pace doesn't", () => {
  const { visitors, pass } = clock();
  for (const id of ["idle", "trickling", "sending", "busy"])
    visitors.come(visitor(id, "198.51.100.7"));
  for (let minute = 0; minute < 9; minute++) {
    pass(MINUTE);
    visitors.arrives(visitor("trickling", ""), 60);
    visitors.arrives(visitor("sending", ""), 300_000);
    visitors.handedIn(visitor("busy", ""));
  }
  expect(visitors.overdue()).toEqual([]);
  pass(2 * MINUTE);
  expect(visitors.overdue()).toEqual(["idle", "trickling"]);
  visitors.go(visitor("idle", ""));
  pass(14 * MINUTE);
  expect(visitors.overdue()).toEqual(["trickling", "sending", "busy"]);
});

test("where too many are open, the network with most of them makes room, first with whoever has handed in nothing", () => {
  const { visitors, pass } = clock(4);
  visitors.come(visitor("sender", "203.0.113.1"));
  visitors.come(visitor("own", "192.0.2.5"));
  for (const id of ["one", "two", "three"]) {
    visitors.come(visitor(id, "198.51.100.7"));
    pass(1000);
  }
  visitors.handedIn(visitor("one", ""));
  expect(visitors.weakest()).toBe("two");
  visitors.go(visitor("two", ""));
  expect(visitors.weakest()).toBeUndefined();
});

test("one network sends three hundred mails a minute", () => {
  const { visitors, pass } = clock();
  const refused = (address: string) =>
    Array.from({ length: 301 }, () => visitors.mail(visitor("x", address))).filter(
      (answer) => answer !== null,
    ).length;
  expect([refused("198.51.100.7"), refused("192.0.2.5"), refused("127.0.0.1")]).toEqual([1, 0, 0]);
  pass(MINUTE);
  expect(visitors.mail(visitor("x", "198.51.100.7"))).toBeNull();
});
