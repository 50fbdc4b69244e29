import { number } from "./number";

/** `+3` in leaf: addresses that join. */
export function Plus({ count }: { count: number }) {
  return count === 0 ? null : <span className="font-[650] text-leaf-ink">+{number(count)}</span>;
}

/** `−3` in brick: addresses that leave. */
export function Minus({ count }: { count: number }) {
  return count === 0 ? null : <span className="font-[650] text-brick">−{number(count)}</span>;
}

/** `~1`: addresses that are replaced. */
export function Tilde({ count }: { count: number }) {
  return count === 0 ? null : <span className="font-[650] text-ink-2">~{number(count)}</span>;
}

/** What needs a person, with its sign. */
export function Warn({ children }: { children: React.ReactNode }) {
  return (
    <span className="text-marigold-ink">
      <b className="font-extrabold">! </b>
      {children}
    </span>
  );
}

/** How many things wait in a place, in a small round mark; nothing where none do. */
export function Count({ of }: { of: number }) {
  return of === 0 ? null : (
    <span className="rounded-full bg-marigold-soft px-[7px] text-xs font-semibold text-marigold-ink">
      {number(of)}
    </span>
  );
}
