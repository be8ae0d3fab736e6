import type { HorseId } from "@still-pine/core/record";
import { Film, Image, Mic } from "lucide-react";
import { linkTo } from "../ask";
import { useMediaQuery } from "../api";

/** Photos, clips and voice notes of a horse, small; each opens by itself. */
export function Gallery({ horse }: { horse: HorseId }) {
  const { data = [] } = useMediaQuery(horse);
  if (data.length === 0) return null;
  return (
    <section aria-label="Photos and clips" className="card">
      <h2 className="mb-2 text-xl">Photos and clips</h2>
      <ul className="flex flex-wrap gap-2">
        {data.map(({ id, contentType, hasThumbnail }) => {
          const isPhoto = contentType.startsWith("image/");
          const isVoice = contentType.startsWith("audio/");
          const address = linkTo<"mediaContent">("/media/{media}", { media: id });
          return (
            <li key={id}>
              <a
                href={address}
                target="_blank"
                rel="noreferrer"
                aria-label={isPhoto ? "Open the photo" : isVoice ? "Hear the voice note" : "Open the clip"}
                className="flex size-24 items-center justify-center overflow-hidden rounded-lg border border-line bg-paper"
              >
                {hasThumbnail ? (
                  <img
                    src={linkTo<"thumbnail">("/media/{media}/thumbnail", { media: id })}
                    alt=""
                    className="size-full object-cover"
                  />
                ) : isPhoto ? (
                  <Image aria-hidden="true" />
                ) : isVoice ? (
                  <Mic aria-hidden="true" />
                ) : (
                  <Film aria-hidden="true" />
                )}
              </a>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
