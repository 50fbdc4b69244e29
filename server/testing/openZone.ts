import { recordOf } from "../mail/mailKeys";
import type { TestHouse } from "./testHouse";

type Records = Readonly<Record<string, string>>;

/** A zone in which everything that is sent from this machine is proven by SPF, and our own key stands. `records` are TXT records beside these, by their names. */
export function openZone({ amigo }: TestHouse, records: Records = {}) {
  return async (name: string, type: string): Promise<string[][]> => {
    if (type === "TXT") {
      const found =
        records[name] ??
        (name.startsWith("amigo._domainkey.")
          ? recordOf(amigo.context.houseKey, "rsa-sha256")
          : name.startsWith("_")
            ? ""
            : "v=spf1 ip4:127.0.0.0/8 ip6:::1 -all");
      if (found !== "") return [[found]];
    }
    throw Object.assign(new Error("no such record"), { code: "ENOTFOUND" });
  };
}

/** Does something while the DNS is such a zone. */
export async function proven<Value>(
  house: TestHouse,
  act: () => Promise<Value>,
  records: Records = {},
): Promise<Value> {
  const { context } = house.amigo;
  const before = context.resolver;
  context.resolver = openZone(house, records);
  try {
    return await act();
  } finally {
    context.resolver = before;
  }
}
