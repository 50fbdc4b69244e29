import type { z } from "zod";
import type { HOW_OFTEN } from "@amigo/contract/member";
import {
  getMember,
  getMemberArchive,
  getMemberOthers,
  getMemberPost,
  postConfirmAddress,
  postMemberEnter,
  postMemberGo,
  postMemberJoin,
  postMemberLeave,
  postMemberLink,
  postNewAddress,
  postWrong,
  putHowOften,
  putPause,
  type MemberLists,
  type MemberPost,
} from "@amigo/contract/member";
import { api } from "./api";

type HowOften = (typeof HOW_OFTEN)[number];

export const {
  useMemberQuery,
  useMemberLinkMutation,
  useMemberEnterMutation,
  useMemberGoMutation,
  useHowOftenMutation,
  usePauseMutation,
  useMemberLeaveMutation,
  useMemberJoinMutation,
  useNewAddressMutation,
  useConfirmAddressMutation,
  useWrongMutation,
  useMemberArchiveQuery,
  useMemberPostQuery,
  useMemberOthersQuery,
} = api.injectEndpoints({
  endpoints: (build) => ({
    member: build.query<MemberLists, void>({
      query: () => ({ endpoint: getMember }),
      providesTags: ["me"],
    }),
    memberLink: build.mutation<unknown, string>({
      query: (address) => ({ endpoint: postMemberLink, body: { address } }),
    }),
    memberEnter: build.mutation<unknown, string>({
      query: (token) => ({ endpoint: postMemberEnter, body: { token } }),
      invalidatesTags: ["me"],
    }),
    memberGo: build.mutation<unknown, void>({
      query: () => ({ endpoint: postMemberGo }),
      invalidatesTags: ["me"],
    }),
    howOften: build.mutation<unknown, { id: string; howOften: HowOften }>({
      query: ({ id, howOften }) => ({ endpoint: putHowOften, params: { id }, body: { howOften } }),
      invalidatesTags: ["me"],
    }),
    pause: build.mutation<unknown, string>({
      query: (until) => ({ endpoint: putPause, body: { until } }),
      invalidatesTags: ["me"],
    }),
    memberLeave: build.mutation<unknown, string>({
      query: (id) => ({ endpoint: postMemberLeave, params: { id } }),
      invalidatesTags: ["me"],
    }),
    memberJoin: build.mutation<{ member: boolean }, string>({
      query: (id) => ({ endpoint: postMemberJoin, params: { id } }),
      invalidatesTags: ["me"],
    }),
    newAddress: build.mutation<unknown, string>({
      query: (address) => ({ endpoint: postNewAddress, body: { address } }),
    }),
    confirmAddress: build.mutation<{ address: string }, string>({
      query: (token) => ({ endpoint: postConfirmAddress, body: { token } }),
    }),
    wrong: build.mutation<unknown, { about: string; text: string }>({
      query: (body) => ({ endpoint: postWrong, body }),
    }),
    memberArchive: build.query<MemberPost[], { id: string; before?: string; q: string }>({
      query: ({ id, before, q }) => ({
        endpoint: getMemberArchive,
        params: { id },
        query: { before, q },
      }),
      providesTags: ["me"],
    }),
    memberPost: build.query<z.output<typeof getMemberPost.answer>, string>({
      query: (id) => ({ endpoint: getMemberPost, params: { id } }),
      providesTags: ["me"],
    }),
    memberOthers: build.query<{ name: string; address: string }[], string>({
      query: (id) => ({ endpoint: getMemberOthers, params: { id } }),
      providesTags: ["me"],
    }),
  }),
});
