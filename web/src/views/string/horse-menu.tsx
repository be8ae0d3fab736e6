import { Ellipsis } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { Link } from "react-router";
import type { StringHorse } from "@still-pine/contract/http";
import { linkTo } from "../../ask";
import { useRecord } from "../../writing/use-record";

const ITEM =
  "flex min-h-11 cursor-pointer items-center rounded-md px-3 outline-none data-[highlighted]:bg-pine data-[highlighted]:text-on-pine";

/** What can be done with a horse as a whole. */
export function HorseMenu({
  horse,
  onEdit,
  isSmall = false,
}: {
  horse: StringHorse;
  onEdit: () => void;
  isSmall?: boolean;
}) {
  const { record } = useRecord();
  const rest = (): void => void record({ horse: horse.id, outing: null, body: { type: "rest" } });
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className={
          isSmall ? "inline-flex size-6 items-center justify-center rounded hover:bg-moss" : "button w-11 px-0"
        }
        aria-label={`More for ${horse.name}`}
      >
        <Ellipsis size={isSmall ? 16 : 20} aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <div>
          <div className="fixed inset-0 z-10" aria-hidden="true" />
          <DropdownMenu.Content
            align="end"
            sideOffset={4}
            className="z-10 min-w-52 rounded-xl border border-line bg-sheet p-1 shadow-lg"
          >
            <DropdownMenu.Item className={ITEM} asChild>
              <Link to={`/horses/${encodeURIComponent(horse.id)}/brief`}>Go out</Link>
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} asChild>
              <a href={`/write-up?horse=${encodeURIComponent(horse.id)}`}>Write up an outing</a>
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={onEdit}>
              Change name, age or sex
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} asChild>
              <a href={linkTo<"record">("/horses/{horse}/record", { horse: horse.id })} download>
                Export the record
              </a>
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={rest}>
              Take out of work
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </div>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
