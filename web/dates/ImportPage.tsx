import { useSearchParams } from "react-router";
import { t } from "../texts/dates";
import { PageHead } from "../ui/Page";
import { Tabs } from "../ui/Tabs";
import { FileImport } from "./FileImport";
import { WatchImport } from "./WatchImport";

/** Dates from a file, or from a web address that Amigo watches. */
export function ImportPage() {
  const [search, setSearch] = useSearchParams();
  const isWeb = search.get("from") === "web" || search.has("watch");
  return (
    <>
      <PageHead title={t("dates.importDates")} line={t("dates.importLine")} />
      <Tabs
        label={t("dates.importFrom")}
        value={isWeb ? "web" : "file"}
        tabs={[
          ["file", t("dates.fromAFile")],
          ["web", t("dates.fromAWebAddress")],
        ]}
        onChange={(from) => setSearch({ from })}
      />
      {isWeb ? <WatchImport /> : <FileImport />}
    </>
  );
}
