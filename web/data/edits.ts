import type { z } from "zod";
import {
  getMaking,
  getNaming,
  getNextSeason,
  getAudienceWords,
  postAudienceTry,
  postEdit,
  postEditPlan,
  postNamesTry,
  postSeason,
  postSeasonPlan,
  putNaming,
  type AudienceWords,
  type AudienceTried,
  type EditDone,
  type EditPlan,
  type EditWanted,
  type Making,
  type NamesTried,
  type NamingSettings,
  type SeasonPlan,
  type SeasonWanted,
} from "@amigo/contract/edits";
import type { Each } from "@amigo/core/lists/recipe";
import { api } from "./api";

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
    making: build.query<Making, void>({
      query: () => ({ endpoint: getMaking }),
      providesTags: ["house", "board"],
    }),
    plannedEdit: build.query<EditPlan, EditWanted>({
      query: (edit) => ({ endpoint: postEditPlan, body: { edit } }),
      providesTags: ["rounds", "board"],
      keepUnusedDataFor: 0,
    }),
    carryOutEdit: build.mutation<
      EditDone,
      { edit: EditWanted; version: number; passed: Record<string, number> }
    >({ query: (body) => ({ endpoint: postEdit, body }), invalidatesTags: [...CHANGES] }),
    audienceWords: build.query<AudienceWords, void>({
      query: () => ({ endpoint: getAudienceWords }),
      providesTags: ["board"],
    }),
    triedAudience: build.query<
      AudienceTried,
      { text: string; cursor: number; each: Each | ""; list: string }
    >({
      query: (body) => ({ endpoint: postAudienceTry, body }),
      providesTags: ["board"],
      keepUnusedDataFor: 10,
    }),
    triedNames: build.query<
      NamesTried,
      { patterns: Record<string, string>; shorts: Record<string, string | null> }
    >({
      query: (body) => ({ endpoint: postNamesTry, body }),
      providesTags: ["board", "house"],
      keepUnusedDataFor: 10,
    }),
    naming: build.query<NamingSettings, void>({
      query: () => ({ endpoint: getNaming }),
      providesTags: ["house"],
    }),
    changeNaming: build.mutation<NamingSettings, NamingSettings>({
      query: (body) => ({ endpoint: putNaming, body }),
      invalidatesTags: ["house", "board"],
    }),
    nextSeason: build.query<z.output<typeof getNextSeason.answer>, void>({
      query: () => ({ endpoint: getNextSeason }),
      providesTags: ["board"],
    }),
    plannedSeason: build.query<SeasonPlan, SeasonWanted>({
      query: (body) => ({ endpoint: postSeasonPlan, body }),
      providesTags: ["board"],
      keepUnusedDataFor: 0,
    }),
    openSeason: build.mutation<EditDone, { wanted: SeasonWanted; version: number }>({
      query: (body) => ({ endpoint: postSeason, body }),
      invalidatesTags: [...CHANGES, "sources", "me"],
    }),
  }),
});
