import {
  deletePushDevice,
  getPush,
  postPushDevice,
  postPushTest,
  putPushTopics,
} from "@amigo/contract/push";
import type { PushTopic } from "@amigo/core/push/topics";
import { api } from "./api";
import { reads, sends, sendsBody } from "./request";

export const {
  usePushQuery,
  useChooseTopicsMutation,
  useAddDeviceMutation,
  useDropDeviceMutation,
  useTryDeviceMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    push: reads(build, getPush, { providesTags: ["me"] }),
    chooseTopics: sends(build, putPushTopics, {
      of: (topics: PushTopic[]) => ({ body: { topics } }),
      invalidatesTags: ["me"],
    }),
    addDevice: sendsBody(build, postPushDevice, { invalidatesTags: ["me"] }),
    dropDevice: sends(build, deletePushDevice, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["me"],
    }),
    tryDevice: sends(build, postPushTest, { of: (id: string) => ({ params: { id } }) }),
  }),
});
