import {
  getDate,
  getDates,
  postDate,
  postDateCancel,
  postDatePreview,
  putDate,
} from "@amigo/contract/dates";
import { api } from "./api";
import { reads, sends, sendsBody, type BodyOf } from "./request";

export const {
  useDatesQuery,
  useDateQuery,
  useDatePreviewQuery,
  useMakeDateMutation,
  useChangeDateMutation,
  useCancelDateMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    dates: reads(build, getDates, {
      of: (which: "coming" | "past") => ({ query: { which } }),
      providesTags: ["dates"],
    }),
    date: reads(build, getDate, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["dates"],
    }),
    datePreview: reads(build, postDatePreview, {
      of: (lists: readonly string[]) => ({ body: { lists: [...lists] } }),
      providesTags: ["board"],
    }),
    makeDate: sendsBody(build, postDate, { invalidatesTags: ["dates"] }),
    changeDate: sends(build, putDate, {
      of: ({ id, ...body }: { id: string } & BodyOf<typeof putDate>) => ({ params: { id }, body }),
      invalidatesTags: ["dates"],
    }),
    cancelDate: sends(build, postDateCancel, {
      of: ({ id, reason }: { id: string; reason: string }) => ({
        params: { id },
        body: { reason },
      }),
      invalidatesTags: ["dates"],
    }),
  }),
});
