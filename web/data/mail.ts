import {
  deleteMailKey,
  getMailHouse,
  getMailReports,
  getReach,
  postBrake,
  postHeal,
  postMailKey,
  postQueue,
  putMailKey,
  putMailSettings,
} from "@amigo/contract/mail";
import { api } from "./api";
import { reads, sends, sendsBody } from "./request";

export const {
  useMailHouseQuery,
  useMailReportsQuery,
  useChangeMailSettingsMutation,
  usePauseQueueMutation,
  useMakeMailKeyMutation,
  useChangeMailKeyMutation,
  useDropMailKeyMutation,
  useReachQuery,
  useHealMutation,
  useDecideOnBrakeMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    mailHouse: reads(build, getMailHouse, { providesTags: ["house"] }),
    mailReports: reads(build, getMailReports, { providesTags: ["house"] }),
    changeMailSettings: sendsBody(build, putMailSettings, { invalidatesTags: ["house"] }),
    pauseQueue: sends(build, postQueue, {
      of: (paused: boolean) => ({ body: { paused } }),
      invalidatesTags: ["house", "posts", "board"],
    }),
    makeMailKey: sends(build, postMailKey, {
      of: (algorithm: "rsa-sha256" | "ed25519-sha256") => ({ body: { algorithm } }),
      invalidatesTags: ["house"],
    }),
    changeMailKey: sends(build, putMailKey, {
      of: ({ selector, state }: { selector: string; state: "signing" | "retired" }) => ({
        params: { selector },
        body: { state },
      }),
      invalidatesTags: ["house"],
    }),
    dropMailKey: sends(build, deleteMailKey, {
      of: (selector: string) => ({ params: { selector } }),
      invalidatesTags: ["house"],
    }),
    reach: reads(build, getReach, { providesTags: ["people", "board"] }),
    decideOnBrake: sends(build, postBrake, {
      of: ({ id, decision }: { id: string; decision: "resume" | "stop" }) => ({
        params: { id },
        body: { decision },
      }),
      invalidatesTags: ["people", "board", "posts"],
    }),
    heal: sends(build, postHeal, {
      of: (address: string) => ({ body: { address } }),
      invalidatesTags: ["people", "board", "posts"],
    }),
  }),
});
