import type { z } from "zod";
import {
  deleteCorrection,
  getCorrections,
  getReading,
  getReadingRows,
  getSamples,
  getSource,
  getSources,
  getWatched,
  postCorrection,
  postLook,
  getKnownWords,
  postMatch,
  postMeanings,
  postPosted,
  postPostedAddress,
  postReading,
  postReadNow,
  postSource,
  putSource,
  type CorrectionLine,
  type ReadingOutcome,
  type ReadingPage,
  type SourceLine,
  type SourceSettings,
} from "@amigo/contract/sources";
import { api } from "./api";
import type { ReadingPlan } from "@amigo/core/sheet/table";

const CHANGES = ["sources", "rounds", "board", "people"] as const;

export const {
  useSourcesQuery,
  useSourceQuery,
  useReadingQuery,
  useLazyReadingRowsQuery,
  useSamplesQuery,
  useReadIntoMutation,
  useChangeSourceMutation,
  useWatchedQuery,
  useLookMutation,
  useKnownWordsQuery,
  useMatchMutation,
  useChangeMeaningsMutation,
  useMakePostedMutation,
  useNewAddressMutation,
  useReadNowMutation,
  useCorrectionsQuery,
  useCorrectMutation,
  useEndCorrectionMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    sources: build.query<SourceLine[], void>({
      query: () => ({ endpoint: getSources }),
      providesTags: ["sources"],
    }),
    source: build.query<z.output<typeof getSource.answer>, string>({
      query: (id) => ({ endpoint: getSource, params: { id } }),
      providesTags: ["sources"],
    }),
    reading: build.query<ReadingPage, string>({
      query: (id) => ({ endpoint: getReading, params: { id } }),
      providesTags: ["sources", "people"],
    }),
    readingRows: build.query<
      z.output<typeof getReadingRows.answer>,
      { id: string; sheet: number; from: number }
    >({ query: ({ id, ...query }) => ({ endpoint: getReadingRows, params: { id }, query }) }),
    samples: build.query<z.output<typeof getSamples.answer>, void>({
      query: () => ({ endpoint: getSamples }),
    }),
    readInto: build.mutation<ReadingOutcome, { source: string | undefined; form: FormData }>({
      query: ({ source, form }) =>
        source === undefined
          ? { endpoint: postSource, body: form }
          : { endpoint: postReading, params: { id: source }, body: form },
      invalidatesTags: [...CHANGES],
    }),
    changeSource: build.mutation<
      SourceLine,
      { id: string; settings: SourceSettings & { version: string } }
    >({
      query: ({ id, settings }) => ({ endpoint: putSource, params: { id }, body: settings }),
      invalidatesTags: ["sources"],
    }),
    watched: build.query<z.output<typeof getWatched.answer>, void>({
      query: () => ({ endpoint: getWatched }),
    }),
    look: build.mutation<
      z.output<typeof postLook.answer>,
      { kind: "watched" | "web" | "posted"; location: string }
    >({ query: (body) => ({ endpoint: postLook, body }) }),
    knownWords: build.query<z.output<typeof getKnownWords.answer>, void>({
      query: () => ({ endpoint: getKnownWords }),
      providesTags: ["sources"],
    }),
    match: build.mutation<z.output<typeof postMatch.answer>, z.output<typeof postMatch.body>>({
      query: (body) => ({ endpoint: postMatch, body }),
    }),
    changeMeanings: build.mutation<ReadingOutcome, { id: string; plan: ReadingPlan }>({
      query: ({ id, plan }) => ({ endpoint: postMeanings, params: { id }, body: { plan } }),
      invalidatesTags: [...CHANGES],
    }),
    makePosted: build.mutation<{ id: string; url: string }, string>({
      query: (name) => ({ endpoint: postPosted, body: { name } }),
      invalidatesTags: ["sources"],
    }),
    newAddress: build.mutation<{ url: string }, string>({
      query: (id) => ({ endpoint: postPostedAddress, params: { id } }),
    }),
    readNow: build.mutation<{ ok: boolean; outcome: string }, string>({
      query: (id) => ({ endpoint: postReadNow, params: { id } }),
      invalidatesTags: [...CHANGES],
    }),
    corrections: build.query<CorrectionLine[], void>({
      query: () => ({ endpoint: getCorrections }),
      providesTags: ["sources"],
    }),
    correct: build.mutation<
      { round: number | null; causes: number },
      { reading: string; sheet: number; row: number; column: number; read: string }
    >({ query: (body) => ({ endpoint: postCorrection, body }), invalidatesTags: [...CHANGES] }),
    endCorrection: build.mutation<unknown, string>({
      query: (id) => ({ endpoint: deleteCorrection, params: { id } }),
      invalidatesTags: [...CHANGES],
    }),
  }),
});
