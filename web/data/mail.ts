import { getMailHouse, getReach, postHeal, postQueue, putMailSettings } from "@amigo/contract/mail";
import { api } from "./api";
import { reads, sends, sendsBody } from "./request";

export const {
  useMailHouseQuery,
  useChangeMailSettingsMutation,
  usePauseQueueMutation,
  useReachQuery,
  useHealMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    mailHouse: reads(build, getMailHouse, { providesTags: ["house"] }),
    changeMailSettings: sendsBody(build, putMailSettings, { invalidatesTags: ["house"] }),
    pauseQueue: sends(build, postQueue, {
      of: (paused: boolean) => ({ body: { paused } }),
      invalidatesTags: ["house", "posts", "board"],
    }),
    reach: reads(build, getReach, { providesTags: ["people", "board"] }),
    heal: sends(build, postHeal, {
      of: (address: string) => ({ body: { address } }),
      invalidatesTags: ["people", "board", "posts"],
    }),
  }),
});
