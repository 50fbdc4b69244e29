import { post } from "../db/schema/posts";

export const postColumns = {
  id: post.id,
  subject: post.subject,
  fromName: post.fromName,
  fromAddress: post.fromAddress,
  at: post.at,
  outcome: post.outcome,
  reaches: post.reaches,
  leavesAt: post.leavesAt,
  pausedBy: post.pausedBy,
  takenOutBy: post.takenOutBy,
};
