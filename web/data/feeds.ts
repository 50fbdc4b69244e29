import {
  deleteFeed,
  deleteMemberFeed,
  getFeed,
  getMemberDates,
  postFeed,
  postMemberFeed,
  type FEED_KINDS,
} from "@amigo/contract/feeds";
import { api } from "./api";
import { reads, sends } from "./request";

/** Whose dates a calendar has. */
export interface FeedOf {
  kind: (typeof FEED_KINDS)[number];
  list: string;
}

export const {
  useFeedQuery,
  useMakeFeedMutation,
  useEndFeedMutation,
  useMemberDatesQuery,
  useMakeMemberFeedMutation,
  useEndMemberFeedMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    feed: reads(build, getFeed, {
      of: (of: FeedOf) => ({ query: of }),
      providesTags: ["feeds"],
    }),
    makeFeed: sends(build, postFeed, {
      of: (of: FeedOf) => ({ body: of }),
      invalidatesTags: ["feeds"],
    }),
    endFeed: sends(build, deleteFeed, {
      of: (of: FeedOf) => ({ query: of }),
      invalidatesTags: ["feeds"],
    }),
    memberDates: reads(build, getMemberDates, { providesTags: ["feeds"] }),
    makeMemberFeed: sends(build, postMemberFeed, {
      of: (child: string) => ({ body: { child } }),
      invalidatesTags: ["feeds"],
    }),
    endMemberFeed: sends(build, deleteMemberFeed, {
      of: (child: string) => ({ query: { child } }),
      invalidatesTags: ["feeds"],
    }),
  }),
});
