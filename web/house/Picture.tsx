import { useRef } from "react";
import { useStartPageQuery } from "../data/accounts";
import { useRemovePictureMutation, useSetPictureMutation } from "../data/house";
import { Button } from "../ui/Button";
import { FaultLine, Panel } from "../ui/Page";
import { t } from "../texts/house";

/** The picture of the school or club, as its sign-in page and sign-in mails show it. */
export function Picture() {
  const { data: start } = useStartPageQuery();
  const [set, setting] = useSetPictureMutation();
  const [remove, removing] = useRemovePictureMutation();
  const file = useRef<HTMLInputElement>(null);
  const has = start !== undefined && start.picture !== "";
  return (
    <Panel className="flex flex-col gap-2.5 px-[18px] py-3.5">
      <h2>{t("house.picture")}</h2>
      <p className="text-[13px] text-ink-2">{t("house.aLogoOrCrestFor")}</p>
      {has && (
        <img
          src={start.picture}
          alt={t("house.thePictureInUse")}
          className="max-h-16 max-w-full self-start"
        />
      )}
      <input
        ref={file}
        type="file"
        accept="image/png,image/jpeg,image/gif"
        aria-label={t("house.pictureOfTheSchoolOr")}
        className="hidden"
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen !== undefined) void set(chosen);
          event.target.value = "";
        }}
      />
      <div className="flex gap-2">
        <Button disabled={setting.isLoading} onClick={() => file.current?.click()}>
          {has ? t("house.chooseAnotherPicture") : t("house.chooseAPicture")}
        </Button>
        {has && (
          <Button look="quiet" disabled={removing.isLoading} onClick={() => void remove()}>
            {t("house.removePicture")}
          </Button>
        )}
      </div>
      <FaultLine error={setting.error ?? removing.error} />
    </Panel>
  );
}
