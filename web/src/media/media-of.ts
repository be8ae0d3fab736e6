import { v7 as newId } from "uuid";
import type { KeptMedia } from "../outbox/kept";
import type { Upload } from "./prepare";

/** A photo or clip as this device keeps it until the server has it. */
export const mediaOf = ({
  horse,
  outing,
  kind,
  content,
  thumbnail,
}: Upload & Pick<KeptMedia, "horse" | "outing">): KeptMedia => ({
  id: newId(),
  horse,
  outing,
  kind,
  parts: [content],
  thumbnail,
  isWhole: true,
  sent: 0,
});
