import {
  getMailHouse,
  getReach,
  postHeal,
  postQueue,
  putMailSettings,
  type MailHouse,
  type MailSettings,
  type Reach,
} from "@amigo/contract/mail";
import { api } from "./api";

export const {
  useMailHouseQuery,
  useChangeMailSettingsMutation,
  usePauseQueueMutation,
  useReachQuery,
  useHealMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    mailHouse: build.query<MailHouse, void>({
      query: () => ({ endpoint: getMailHouse }),
      providesTags: ["house"],
    }),
    changeMailSettings: build.mutation<{ version: string }, MailSettings & { version: string }>({
      query: (body) => ({ endpoint: putMailSettings, body }),
      invalidatesTags: ["house"],
    }),
    pauseQueue: build.mutation<unknown, boolean>({
      query: (paused) => ({ endpoint: postQueue, body: { paused } }),
      invalidatesTags: ["house", "posts", "board"],
    }),
    reach: build.query<Reach, void>({
      query: () => ({ endpoint: getReach }),
      providesTags: ["people", "board"],
    }),
    heal: build.mutation<unknown, string>({
      query: (address) => ({ endpoint: postHeal, body: { address } }),
      invalidatesTags: ["people", "board", "posts"],
    }),
  }),
});
