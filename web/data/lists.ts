import {
  deleteKept,
  getKept,
  getMembers,
  postKept,
  putMemberHowOften,
  postMembers,
  postPasted,
  postWelcomePreview,
} from "@amigo/contract/members";
import {
  getAllLists,
  getList,
  getListJournal,
  postAgree,
  putOwnShort,
} from "@amigo/contract/lists";
import { postTry, postTryAll } from "@amigo/contract/tries";
import type { Proof } from "@amigo/core/posting/mailToJudge";
import type { Endpoint } from "@amigo/contract/endpoint";
import { api } from "./api";
import { type BodyOf, reads, sends } from "./request";

/** A request about one list: its id, and what the endpoint takes. */
type OfList<E extends Endpoint> = { id: string } & BodyOf<E>;

export const {
  useListQuery,
  useMembersQuery,
  useListJournalQuery,
  useTryMutation,
  useTryAllQuery,
  useAgreeMutation,
  useKeptQuery,
  useKeepMutation,
  useSetHowOftenMutation,
  useLetGoMutation,
  usePastedMutation,
  useAddMembersMutation,
  useWelcomePreviewQuery,
  useOwnShortMutation,
  useAllListsQuery,
} = api.injectEndpoints({
  endpoints: (build) => ({
    list: reads(build, getList, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["board", "rounds"],
    }),
    members: reads(build, getMembers, {
      of: ({ id, ...query }: { id: string; q: string; from: number; on: string }) => ({
        params: { id },
        query,
      }),
      providesTags: ["board"],
    }),
    kept: reads(build, getKept, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["board"],
    }),
    setHowOften: sends(build, putMemberHowOften, {
      of: ({ id, ...body }: OfList<typeof putMemberHowOften>) => ({ params: { id }, body }),
      invalidatesTags: ["board"],
    }),
    keep: sends(build, postKept, {
      of: ({ id, ...body }: OfList<typeof postKept>) => ({ params: { id }, body }),
      invalidatesTags: ["board", "rounds", "people"],
    }),
    letGo: sends(build, deleteKept, {
      of: ({ id, ...body }: OfList<typeof deleteKept>) => ({ params: { id }, body }),
      invalidatesTags: ["board", "rounds", "people"],
    }),
    listJournal: reads(build, getListJournal, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["board", "posts"],
    }),
    try: sends(build, postTry, {
      of: ({ id, ...body }: OfList<typeof postTry>) => ({ params: { id }, body }),
    }),
    tryAll: reads(build, postTryAll, {
      of: (body: { address: string; proof: Proof }) => ({ body }),
      providesTags: ["board", "house"],
      keepUnusedDataFor: 10,
    }),
    agree: sends(build, postAgree, {
      of: ({ id, ...body }: OfList<typeof postAgree>) => ({ params: { id }, body }),
      invalidatesTags: ["board", "people"],
    }),
    pasted: sends(build, postPasted, {
      of: ({ id, ...body }: OfList<typeof postPasted>) => ({ params: { id }, body }),
    }),
    welcomePreview: reads(build, postWelcomePreview, {
      of: (body: { text: string; list: string | null; as: string }) => ({ body }),
    }),
    addMembers: sends(build, postMembers, {
      of: ({ id, ...body }: OfList<typeof postMembers>) => ({ params: { id }, body }),
      invalidatesTags: ["board", "rounds", "people"],
    }),
    ownShort: sends(build, putOwnShort, {
      of: ({ id, ...body }: OfList<typeof putOwnShort>) => ({ params: { id }, body }),
      invalidatesTags: ["board"],
    }),
    allLists: reads(build, getAllLists, {
      of: (season: string) => ({ query: { season } }),
      providesTags: ["board", "house"],
    }),
  }),
});
