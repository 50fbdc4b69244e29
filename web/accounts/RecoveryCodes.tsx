import { t } from "../texts/accounts";
import { Button } from "../ui/Button";

export function RecoveryCodes({
  codes,
  onClose,
}: {
  codes: readonly string[];
  onClose: () => void;
}) {
  const text = codes.join("\n");
  return (
    <div className="flex flex-col gap-3">
      <p>{t("accounts.printThemOrKeepThem")}</p>
      <ul
        aria-label={t("accounts.recoveryCodes")}
        className="mono grid grid-cols-2 gap-x-6 gap-y-1 rounded-md border border-hair bg-mist px-4 py-3"
      >
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <div className="flex flex-wrap justify-end gap-2">
        <Button onClick={() => void navigator.clipboard.writeText(text)}>
          {t("accounts.copyCodes")}
        </Button>
        <a
          className="inline-flex min-h-[30px] items-center rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol"
          download="amigo-recovery-codes.txt"
          href={`data:text/plain;charset=utf-8,${encodeURIComponent(`${text}\n`)}`}
        >
          {t("accounts.saveAsFile")}
        </a>
        <Button look="go" autoFocus onClick={onClose}>
          {t("accounts.iHaveKeptThem")}
        </Button>
      </div>
    </div>
  );
}
