import { deleteCorrection, getCorrections, postCorrection } from "@amigo/contract/corrections";
import {
  getSource,
  getSources,
  getWatched,
  postLook,
  postPosted,
  postPostedAddress,
  postReadNow,
  putSource,
  type SourceSettings,
} from "@amigo/contract/sources";
import {
  postSource,
  getReading,
  getReadingRows,
  getSamples,
  getKnownWords,
  postMatch,
  postMeanings,
  postReading,
  type ReadingOutcome,
} from "@amigo/contract/readings";
import { api } from "./api";
import { asks, reads, sends, sendsBody } from "./request";
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
    sources: reads(build, getSources, { providesTags: ["sources"] }),
    source: reads(build, getSource, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["sources"],
    }),
    reading: reads(build, getReading, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["sources", "people"],
    }),
    readingRows: reads(build, getReadingRows, {
      of: ({ id, ...query }: { id: string; sheet: number; from: number }) => ({
        params: { id },
        query,
      }),
    }),
    samples: reads(build, getSamples, {}),
    readInto: build.mutation<ReadingOutcome, { source: string | undefined; form: FormData }>({
      query: ({ source, form }) =>
        source === undefined
          ? asks(postSource, { body: form })
          : asks(postReading, { params: { id: source }, body: form }),
      invalidatesTags: [...CHANGES],
    }),
    changeSource: sends(build, putSource, {
      of: ({ id, settings }: { id: string; settings: SourceSettings & { version: string } }) => ({
        params: { id },
        body: settings,
      }),
      invalidatesTags: ["sources"],
    }),
    watched: reads(build, getWatched, {}),
    look: sendsBody(build, postLook),
    knownWords: reads(build, getKnownWords, { providesTags: ["sources"] }),
    match: sendsBody(build, postMatch),
    changeMeanings: sends(build, postMeanings, {
      of: ({ id, plan }: { id: string; plan: ReadingPlan }) => ({ params: { id }, body: { plan } }),
      invalidatesTags: [...CHANGES],
    }),
    makePosted: sends(build, postPosted, {
      of: (name: string) => ({ body: { name } }),
      invalidatesTags: ["sources"],
    }),
    newAddress: sends(build, postPostedAddress, { of: (id: string) => ({ params: { id } }) }),
    readNow: sends(build, postReadNow, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: [...CHANGES],
    }),
    corrections: reads(build, getCorrections, { providesTags: ["sources"] }),
    correct: sendsBody(build, postCorrection, { invalidatesTags: [...CHANGES] }),
    endCorrection: sends(build, deleteCorrection, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: [...CHANGES],
    }),
  }),
});
