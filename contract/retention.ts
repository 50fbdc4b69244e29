import * as z from "zod";
import { message } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { KEPT, KEPT_KINDS } from "@amigo/core/retention/kept";
import { endpoint } from "./endpoint";

const Kind = z.enum(KEPT_KINDS);
/** How long each kind is kept, in days; null for good. */
const Times = z
  .record(Kind, z.number().int().min(1).max(36_500).nullable())
  .superRefine((times, context) => {
    for (const kind of KEPT_KINDS) {
      const days = times[kind];
      if (days !== null && days < KEPT[kind].least)
        context.addIssue({
          code: "custom",
          path: [kind],
          message: say(
            message("retention.keepAtLeast", { name: KEPT[kind].name, days: KEPT[kind].least }),
          ),
        });
    }
  });
/** How many things of each kind are over their time. */
const Counts = z.record(Kind, z.number().int());

export const Retention = z
  .object({ times: z.record(Kind, z.number().int().nullable()), version: z.string() })
  .meta({ id: "Retention" });
export type Retention = z.output<typeof Retention>;

export const getRetention = endpoint({
  method: "get",
  path: "/api/retention",
  summary: "How long everything is kept",
  who: "see the house",
  answer: Retention,
});
export const postRetentionPreview = endpoint({
  method: "post",
  path: "/api/retention/preview",
  summary: "How much the next night would remove with other times",
  who: "change the house",
  body: z.object({ times: Times }),
  answer: Counts,
});
export const putRetention = endpoint({
  method: "put",
  path: "/api/retention",
  summary: "Change how long everything is kept",
  who: "change the house",
  body: z.object({ times: Times, version: z.string().max(64) }),
  answer: Retention,
});
