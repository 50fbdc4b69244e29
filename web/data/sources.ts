import type { z } from "zod";
import { getReading, getReadingRows, getSamples, getSource, getSources, postReading, postSource, type ReadingOutcome, type ReadingPage, type SourceLine } from "@amigo/contract/sources";
import { api } from "./api";

export const { useSourcesQuery, useSourceQuery, useReadingQuery, useLazyReadingRowsQuery, useSamplesQuery, useReadIntoMutation } = api.injectEndpoints({
  endpoints: (build) => ({
    sources: build.query<SourceLine[], void>({ query: () => ({ endpoint: getSources }), providesTags: ["sources"] }),
    source: build.query<z.output<typeof getSource.answer>, string>({ query: (id) => ({ endpoint: getSource, params: { id } }), providesTags: ["sources"] }),
    reading: build.query<ReadingPage, string>({ query: (id) => ({ endpoint: getReading, params: { id } }) }),
    readingRows: build.query<z.output<typeof getReadingRows.answer>, { id: string; from: number }>({ query: ({ id, from }) => ({ endpoint: getReadingRows, params: { id }, query: { from } }) }),
    samples: build.query<z.output<typeof getSamples.answer>, void>({ query: () => ({ endpoint: getSamples }) }),
    readInto: build.mutation<ReadingOutcome, { source: string | undefined; form: FormData }>({ query: ({ source, form }) => (source === undefined ? { endpoint: postSource, body: form } : { endpoint: postReading, params: { id: source }, body: form }), invalidatesTags: ["sources", "rounds", "board"] }),
  }),
});
