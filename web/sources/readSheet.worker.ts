import { makeSheetReader, type SheetRequest } from "./sheetReader";

const read = makeSheetReader();

self.onmessage = ({ data }: MessageEvent<SheetRequest>) => {
  self.postMessage(read(data));
};
