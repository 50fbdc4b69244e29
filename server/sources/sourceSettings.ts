import type { SourceSettings } from "@amigo/contract/sources";
import { type source } from "../db/schema/sources";

export function sourceSettings(eachSource: typeof source.$inferSelect): SourceSettings {
  return {
    name: eachSource.name,
    kind: eachSource.kind,
    location: eachSource.location,
    schedule: eachSource.schedule,
    mode: eachSource.mode,
    whole: eachSource.whole,
    limits: eachSource.limits,
    answersBeside: eachSource.answersBeside,
  };
}
