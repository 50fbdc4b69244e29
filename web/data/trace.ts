import { getMailWeeks, getTrace } from "@amigo/contract/trace";
import { api } from "./api";
import { reads } from "./request";

export const { useTraceQuery, useMailWeeksQuery } = api.injectEndpoints({
  endpoints: (build) => ({
    trace: reads(build, getTrace, {
      of: (query: { q: string; before?: string }) => ({ query: { ...query } }),
      providesTags: ["posts"],
    }),
    mailWeeks: reads(build, getMailWeeks, {
      of: (query: { list?: string }) => ({ query: { ...query } }),
      providesTags: ["posts"],
    }),
  }),
});
