import type { SourceSettings } from "@amigo/contract/sources";
import { type source } from "../db/schema/sources";

export function sourceSettings(own: typeof source.$inferSelect): SourceSettings {
  return {
    name: own.name,
    kind: own.kind,
    location: own.location,
    schedule: own.schedule,
    mode: own.mode,
    whole: own.whole,
    limits: own.limits,
    answersBeside: own.answersBeside,
  };
}
