import {
  getMailHouse,
  getReach,
  postBrake,
  postHeal,
  postQueue,
  putMailSettings,
} from "@amigo/contract/mail";
import { api } from "./api";
import { reads, sends, sendsBody } from "./request";

export const {
  useMailHouseQuery,
  useChangeMailSettingsMutation,
  usePauseQueueMutation,
  useReachQuery,
  useHealMutation,
  useDecideOnBrakeMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    mailHouse: reads(build, getMailHouse, { providesTags: ["house"] }),
    changeMailSettings: sendsBody(build, putMailSettings, { invalidatesTags: ["house"] }),
    pauseQueue: sends(build, postQueue, {
      of: (paused: boolean) => ({ body: { paused } }),
      invalidatesTags: ["house", "posts", "board"],
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
