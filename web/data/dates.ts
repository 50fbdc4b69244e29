import {
  getDate,
  getDates,
  getDateTimes,
  getTerms,
  postDate,
  postDateAskAgain,
  postDateCancel,
  postDateDeclineProposal,
  postDateFile,
  postDatePreview,
  postDateRestore,
  putDate,
  putDateTime,
  putTerms,
} from "@amigo/contract/dates";
import {
  deleteDateWatch,
  getDateWatches,
  postDateWatch,
  postDateWatchRead,
} from "@amigo/contract/dateWatches";
import { postDateImport } from "@amigo/contract/dateImport";
import { api } from "./api";
import { reads, sends, sendsBody, type BodyOf } from "./request";

export const {
  useDatesQuery,
  useDateQuery,
  useDateTimesQuery,
  useTermsQuery,
  useChangeTermsMutation,
  useDatePreviewQuery,
  useMakeDateMutation,
  useChangeDateMutation,
  useCancelDateMutation,
  useRestoreDateMutation,
  useChangeTimeMutation,
  useAskAgainMutation,
  useImportDatesMutation,
  useAddDateFileMutation,
  useDeclineProposalMutation,
  useDateWatchesQuery,
  useWatchDatesMutation,
  useReadWatchMutation,
  useEndWatchMutation,
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
    dateTimes: reads(build, getDateTimes, {
      of: (days: { from: string; until: string }) => ({ query: days }),
      providesTags: ["dates"],
    }),
    terms: reads(build, getTerms, { providesTags: ["dates"] }),
    changeTerms: sendsBody(build, putTerms, { invalidatesTags: ["dates"] }),
    datePreview: reads(build, postDatePreview, {
      of: (wanted: BodyOf<typeof postDatePreview>) => ({ body: wanted }),
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
    restoreDate: sends(build, postDateRestore, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["dates"],
    }),
    changeTime: sends(build, putDateTime, {
      of: ({ id, day, ...body }: { id: string; day: string } & BodyOf<typeof putDateTime>) => ({
        params: { id, day },
        body,
      }),
      invalidatesTags: ["dates"],
    }),
    askAgain: sends(build, postDateAskAgain, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["dates"],
    }),
    importDates: sends(build, postDateImport, {
      of: (form: FormData) => ({ body: form }),
      invalidatesTags: ["dates"],
    }),
    addDateFile: sends(build, postDateFile, {
      of: (file: File) => {
        const form = new FormData();
        form.set("file", file);
        return { body: form };
      },
    }),
    declineProposal: sends(build, postDateDeclineProposal, {
      of: ({ id, address }: { id: string; address: string }) => ({
        params: { id },
        body: { address },
      }),
      invalidatesTags: ["dates"],
    }),
    dateWatches: reads(build, getDateWatches, { providesTags: ["dates"] }),
    watchDates: sendsBody(build, postDateWatch, { invalidatesTags: ["dates"] }),
    readWatch: sends(build, postDateWatchRead, {
      of: ({ id, plan }: { id: string; plan: string }) => ({ params: { id }, body: { plan } }),
      invalidatesTags: ["dates"],
    }),
    endWatch: sends(build, deleteDateWatch, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["dates"],
    }),
  }),
});
