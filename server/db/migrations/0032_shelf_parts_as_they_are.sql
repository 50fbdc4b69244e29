-- What is on shelves is mostly compressed already: trying it again for each row takes longer than writing it.
ALTER TABLE "blob_part" ALTER COLUMN "content" SET STORAGE EXTERNAL;
