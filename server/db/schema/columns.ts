import { customType, timestamp } from "drizzle-orm/pg-core";
import type { Fact } from "@amigo/core/facts/fact";
import type { Origin } from "@amigo/core/facts/origin";
import { packFacts, unpackFacts, packOrigin, unpackOrigin } from "@amigo/core/facts/packFacts";

export const bytea = customType<{ data: Buffer }>({ dataType: () => "bytea" });

/** JSON as it is: the stock column type would read a string once more as JSON. */
const jsonbType = customType<{ data: unknown; driverData: unknown }>({
  dataType: () => "jsonb",
  toDriver: (value) => JSON.stringify(value),
  fromDriver: (value) => value,
});

export const jsonb = (name?: string) => (name === undefined ? jsonbType() : jsonbType(name));

/** Facts and origins in few letters, as text: there are hundreds of thousands of them. */
export const packedFacts = customType<{ data: Fact[]; driverData: string }>({
  dataType: () => "text",
  toDriver: packFacts,
  fromDriver: unpackFacts,
});

export const packedOrigin = customType<{ data: Origin; driverData: string }>({
  dataType: () => "text",
  toDriver: packOrigin,
  fromDriver: unpackOrigin,
});

export const jsonText = customType<{ data: unknown; driverData: string }>({
  dataType: () => "text",
  toDriver: (value) => JSON.stringify(value),
  fromDriver: (text) => JSON.parse(text) as unknown,
});

export const tsvector = customType<{ data: string }>({ dataType: () => "tsvector" });

export const instant = (name: string) => timestamp(name, { withTimezone: true });
