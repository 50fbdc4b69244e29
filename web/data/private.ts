import {
  deletePrivateList,
  getPersonHits,
  getPrivateList,
  getPrivateLists,
  postPrivateList,
  putPrivateList,
  type PrivateListPage,
} from "@amigo/contract/private";
import { api } from "./api";
import { reads, sends, sendsBody } from "./request";

export const {
  usePrivateListsQuery,
  usePrivateListQuery,
  useMakePrivateListMutation,
  useChangePrivateListMutation,
  useDeletePrivateListMutation,
  usePersonHitsQuery,
} = api.injectEndpoints({
  endpoints: (build) => ({
    privateLists: reads(build, getPrivateLists, { providesTags: ["private", "people"] }),
    privateList: reads(build, getPrivateList, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["private", "people"],
    }),
    makePrivateList: sendsBody(build, postPrivateList, { invalidatesTags: ["private"] }),
    changePrivateList: sends(build, putPrivateList, {
      of: ({
        id,
        ...body
      }: {
        id: string;
        name?: string;
        children?: PrivateListPage["children"];
        add?: string[];
        remove?: string[];
      }) => ({ params: { id }, body }),
      invalidatesTags: ["private"],
    }),
    deletePrivateList: sends(build, deletePrivateList, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["private"],
    }),
    personHits: reads(build, getPersonHits, {
      of: (q: string) => ({ query: { q } }),
      providesTags: ["people"],
    }),
  }),
});
