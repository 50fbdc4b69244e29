import {
  type HOW_OFTEN,
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
  putLanguage,
  putPause,
} from "@amigo/contract/member";
import { postOwnMemberPage } from "@amigo/contract/staff";
import type { FamilyLanguage } from "@amigo/language/families";
import { api } from "./api";
import { reads, sends, sendsBody } from "./request";

type HowOften = (typeof HOW_OFTEN)[number];

export const {
  useMemberQuery,
  useMemberLinkMutation,
  useMemberEnterMutation,
  useMemberGoMutation,
  useOwnMemberPageMutation,
  useHowOftenMutation,
  usePauseMutation,
  useLanguageMutation,
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
    member: reads(build, getMember, { providesTags: ["me"] }),
    memberLink: sends(build, postMemberLink, { of: (address: string) => ({ body: { address } }) }),
    memberEnter: sends(build, postMemberEnter, {
      of: (token: string) => ({ body: { token } }),
      invalidatesTags: ["me"],
    }),
    ownMemberPage: sends(build, postOwnMemberPage),
    memberGo: sends(build, postMemberGo, { invalidatesTags: ["me"] }),
    howOften: sends(build, putHowOften, {
      of: ({ id, howOften }: { id: string; howOften: HowOften }) => ({
        params: { id },
        body: { howOften },
      }),
      invalidatesTags: ["me"],
    }),
    language: sends(build, putLanguage, {
      of: (language: FamilyLanguage) => ({ body: { language } }),
      invalidatesTags: ["me"],
    }),
    pause: sends(build, putPause, {
      of: (until: string) => ({ body: { until } }),
      invalidatesTags: ["me"],
    }),
    memberLeave: sends(build, postMemberLeave, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["me"],
    }),
    memberJoin: sends(build, postMemberJoin, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["me"],
    }),
    newAddress: sends(build, postNewAddress, { of: (address: string) => ({ body: { address } }) }),
    confirmAddress: sends(build, postConfirmAddress, {
      of: (token: string) => ({ body: { token } }),
    }),
    wrong: sendsBody(build, postWrong),
    memberArchive: reads(build, getMemberArchive, {
      of: ({ id, before, q }: { id: string; before?: string; q: string }) => ({
        params: { id },
        query: { before, q },
      }),
      providesTags: ["me"],
    }),
    memberPost: reads(build, getMemberPost, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["me"],
    }),
    memberOthers: reads(build, getMemberOthers, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["me"],
    }),
  }),
});
