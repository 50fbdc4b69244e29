import { getMaking, postEdit, postEditPlan, type EditWanted } from "@amigo/contract/edits";
import { getAudienceWords, postAudienceTry } from "@amigo/contract/audiences";
import { getNaming, postNamesTry, putNaming } from "@amigo/contract/naming";
import {
  getNextSeason,
  postSeason,
  postSeasonPlan,
  type SeasonWanted,
} from "@amigo/contract/seasons";
import type { Each } from "@amigo/core/lists/recipe";
import { api } from "./api";
import { reads, sendsBody } from "./request";

const CHANGES = ["rounds", "board", "house", "people"] as const;

export const {
  usePlannedEditQuery,
  useCarryOutEditMutation,
  useAudienceWordsQuery,
  useTriedAudienceQuery,
  useTriedNamesQuery,
  useMakingQuery,
  useNamingQuery,
  useChangeNamingMutation,
  useNextSeasonQuery,
  usePlannedSeasonQuery,
  useOpenSeasonMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    making: reads(build, getMaking, { providesTags: ["house", "board"] }),
    plannedEdit: reads(build, postEditPlan, {
      of: (edit: EditWanted) => ({ body: { edit } }),
      providesTags: ["rounds", "board"],
      keepUnusedDataFor: 0,
    }),
    carryOutEdit: sendsBody(build, postEdit, { invalidatesTags: [...CHANGES] }),
    audienceWords: reads(build, getAudienceWords, { providesTags: ["board"] }),
    triedAudience: reads(build, postAudienceTry, {
      of: (body: { text: string; cursor: number; each: Each | ""; list: string }) => ({ body }),
      providesTags: ["board"],
      keepUnusedDataFor: 10,
    }),
    triedNames: reads(build, postNamesTry, {
      of: (body: { patterns: Record<string, string>; shorts: Record<string, string | null> }) => ({
        body,
      }),
      providesTags: ["board", "house"],
      keepUnusedDataFor: 10,
    }),
    naming: reads(build, getNaming, { providesTags: ["house"] }),
    changeNaming: sendsBody(build, putNaming, { invalidatesTags: ["house", "board"] }),
    nextSeason: reads(build, getNextSeason, { providesTags: ["board"] }),
    plannedSeason: reads(build, postSeasonPlan, {
      of: (body: SeasonWanted) => ({ body }),
      providesTags: ["board"],
      keepUnusedDataFor: 0,
    }),
    openSeason: sendsBody(build, postSeason, { invalidatesTags: [...CHANGES, "sources", "me"] }),
  }),
});
