import type { z } from "zod";
import {
  deletePrivateList,
  getPersonHits,
  getPrivateList,
  getPrivateLists,
  postPrivateList,
  putPrivateList,
  type PrivateListLine,
  type PrivateListPage,
} from "@amigo/contract/private";
import { api } from "./api";

export const {
  usePrivateListsQuery,
  usePrivateListQuery,
  useMakePrivateListMutation,
  useChangePrivateListMutation,
  useDeletePrivateListMutation,
  usePersonHitsQuery,
} = api.injectEndpoints({
  endpoints: (build) => ({
    privateLists: build.query<PrivateListLine[], void>({
      query: () => ({ endpoint: getPrivateLists }),
      providesTags: ["private", "people"],
    }),
    privateList: build.query<PrivateListPage, string>({
      query: (id) => ({ endpoint: getPrivateList, params: { id } }),
      providesTags: ["private", "people"],
    }),
    makePrivateList: build.mutation<{ id: string }, { name: string; people: string[] }>({
      query: (body) => ({ endpoint: postPrivateList, body }),
      invalidatesTags: ["private"],
    }),
    changePrivateList: build.mutation<
      PrivateListPage,
      {
        id: string;
        name?: string;
        children?: PrivateListPage["children"];
        add?: string[];
        remove?: string[];
      }
    >({
      query: ({ id, ...body }) => ({ endpoint: putPrivateList, params: { id }, body }),
      invalidatesTags: ["private"],
    }),
    deletePrivateList: build.mutation<unknown, string>({
      query: (id) => ({ endpoint: deletePrivateList, params: { id } }),
      invalidatesTags: ["private"],
    }),
    personHits: build.query<z.output<typeof getPersonHits.answer>, string>({
      query: (q) => ({ endpoint: getPersonHits, query: { q } }),
      providesTags: ["people"],
    }),
  }),
});
