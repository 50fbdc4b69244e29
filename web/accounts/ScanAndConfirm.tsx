import { t } from "../texts/accounts";
import { Field } from "../ui/Field";

export function ScanAndConfirm({
  app,
  code,
  onCode,
}: {
  app: { secret: string; picture: string };
  code: string;
  onCode: (code: string) => void;
}) {
  return (
    <div className="flex flex-wrap gap-4">
      <img
        src={`data:image/svg+xml;utf8,${encodeURIComponent(app.picture)}`}
        alt={t("accounts.qrCodeOfTheSecret")}
        className="size-44 rounded-md border border-hair bg-white"
      />
      <div className="flex min-w-60 flex-1 flex-col gap-3">
        <p>{t("accounts.scanThePictureWithYour")}</p>
        <code className="mono wrap-anywhere select-all">
          {(app.secret.match(/.{1,4}/g) ?? []).join(" ")}
        </code>
        <Field
          label={t("accounts.codeThatTheAppShows")}
          autoFocus
          autoComplete="one-time-code"
          inputMode="numeric"
          maxLength={40}
          required
          value={code}
          onChange={(event) => onCode(event.target.value)}
        />
      </div>
    </div>
  );
}
