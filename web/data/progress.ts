import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { useSelector } from "react-redux";

/** How far the long task in hand is; null when there is none. `share` is between 0 and 1. */
export type Told = { step: string; share: number } | null;

export const progress = createSlice({
  name: "progress",
  initialState: (): { told: Told } => ({ told: null }),
  reducers: {
    progressTold: (state, { payload }: PayloadAction<Told>) => {
      state.told = payload;
    },
  },
});

export const { progressTold } = progress.actions;

/** How far the long task in hand is. */
export function useProgress(): Told {
  return useSelector((state: { progress: { told: Told } }) => state.progress.told);
}
