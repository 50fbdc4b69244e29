import { Menu, MenuButton, MenuItems, MenuItem } from "@headlessui/react";
import { ChevronDown } from "lucide-react";
import type { ListPage as List } from "@amigo/contract/lists";
import { listKeyParts } from "@amigo/core/lists/listKey";
import { t } from "../texts/list";

const FORMATS = [
  ["xlsx", t("list.aSpreadsheetXlsx")],
  ["ods", t("list.aSpreadsheetOds")],
  ["csv", "CSV"],
  ["vcf", t("list.contactsVcard")],
  ["txt", t("list.plainAddresses")],
] as const;

/** What is done with a list seldom: its points, closing, files. */
export function ListMenu({
  list,
  q,
  onEdit,
  onState,
}: {
  list: List;
  q: string;
  onEdit: (() => void) | undefined;
  onState: (() => void) | undefined;
}) {
  const item = "block w-full cursor-pointer px-3 py-1.5 text-left data-focus:bg-petrol-soft";
  return (
    <Menu>
      <MenuButton className="inline-flex min-h-[30px] items-center gap-1.5 rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol">
        {t("list.more")}
        <ChevronDown size={14} aria-hidden="true" />
      </MenuButton>
      <MenuItems
        anchor={{ to: "bottom end", gap: 4 }}
        className="z-50 min-w-56 rounded-md border border-hair bg-panel py-1 shadow-lg outline-none"
      >
        {onEdit !== undefined && (
          <MenuItem>
            <button type="button" className={item} onClick={onEdit}>
              {t("list.changeThisList")}
            </button>
          </MenuItem>
        )}
        {onState !== undefined && (
          <MenuItem>
            <button type="button" className={item} onClick={onState}>
              {list.state === "open" ? t("list.closeIt") : t("list.openItAgain")}
            </button>
          </MenuItem>
        )}
        {printables(list).map(([path, name]) => (
          <MenuItem key={path}>
            <a className={item} href={path} target="_blank" rel="noreferrer">
              {t("list.printPdf", { name })}
            </a>
          </MenuItem>
        ))}
        {FORMATS.map(([format, name]) => (
          <MenuItem key={format}>
            <a
              className={item}
              href={`/api/lists/export/${format}?lists=${list.id}${q === "" ? "" : `&q=${encodeURIComponent(q)}`}`}
              download
            >
              {t("list.exportAs", { isQ: String(q === ""), name })}
            </a>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
}

/** What can be printed of a list, and of the class or team that it is for. */
function printables(list: List): [path: string, name: string][] {
  const of = listKeyParts(list.key)?.of ?? "";
  const cohort = `/api/print/${encodeURIComponent(of)}`;
  return [
    [`/api/lists/${list.id}/members.pdf`, t("list.membersPrinted")],
    ...(/^(class|team|committee):/.test(of)
      ? ([
          [`${cohort}/class-list.pdf`, t("list.classList")],
          [`${cohort}/team-sheet.pdf`, t("list.sheetWithGuardians")],
        ] as [string, string][])
      : []),
  ];
}
