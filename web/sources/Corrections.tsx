import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Empty, FaultLine, Loading } from "../ui/Page";
import { Modal } from "../ui/Modal";
import { moment } from "../ui/time";
import { useCorrectionsQuery, useEndCorrectionMutation } from "../data/sources";
import { t } from "../texts/sources";

/** The corrections of a source, with who made each; those in force can be ended. */
export function Corrections({ only, onClose }: { only: string; onClose: () => void }) {
  const me = useMe();
  const { data } = useCorrectionsQuery();
  const [end, ending] = useEndCorrectionMutation();
  const found = data?.filter(({ source }) => source === only);
  return (
    <Modal wide title={t("sources.correctionsOf", { only })} onClose={onClose}>
      <p className="mb-2 text-ink-2">{t("sources.eachAppliesToEveryLater")}</p>
      <FaultLine error={ending.error} />
      {found === undefined ? (
        <Loading what={t("sources.theCorrections")} />
      ) : found.length === 0 ? (
        <Empty title={t("sources.noCorrectionsYet")}>
          <p>{t("sources.chooseAMarkedCellOf")}</p>
        </Empty>
      ) : (
        <ul>
          {found.map(({ id, place, who, written, read, by, at, ended }) => (
            <li
              key={id}
              className={`flex items-start gap-3 border-t border-hair-soft py-2 ${ended === "" ? "" : "text-ink-3"}`}
            >
              <span className="min-w-0 flex-1">
                <b className="block font-[620]">{who}</b>
                <span className="block text-[13px]">{place}</span>
                <span className="mono block wrap-anywhere">
                  <s>{written === "" ? t("sources.empty") : written}</s> →{" "}
                  {read === "" ? t("sources.nothing") : read}
                </span>
                <span className="block text-[13px]">
                  {by}, {moment(at, me.timeZone)}
                  {ended !== "" && t("sources.ended", { ended })}
                </span>
              </span>
              {ended === "" && (
                <Button disabled={ending.isLoading} onClick={() => void end(id)}>
                  {t("sources.endIt")}
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
      <div className="mt-3 flex justify-end">
        <Button onClick={onClose}>{t("sources.close")}</Button>
      </div>
    </Modal>
  );
}
