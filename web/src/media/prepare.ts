/** Photos and clips made ready in the browser: drawn anew at a size a screen can use, with a small picture beside. */

export interface Upload {
  kind: "photo" | "clip";
  content: Blob;
  thumbnail: Blob | null;
}

const PHOTO_EDGE = 2400;
const THUMBNAIL_EDGE = 240;
const QUALITY = 0.85;
const CLIP_MOST_BYTES = 50 * 1024 * 1024;

export async function toUpload(file: File): Promise<Upload | { trouble: string }> {
  if (file.type.startsWith("video/")) {
    if (file.size > CLIP_MOST_BYTES)
      return { trouble: `A clip may have 50 MB; this one has ${Math.ceil(file.size / 1024 / 1024)}. Cut it shorter.` };
    return { kind: "clip", content: file, thumbnail: await frameOf(file) };
  }
  try {
    // Drawn the way up it was taken.
    const picture = await createImageBitmap(file, { imageOrientation: "from-image" });
    return {
      kind: "photo",
      content: await drawn(picture, picture.width, picture.height, PHOTO_EDGE),
      thumbnail: await drawn(picture, picture.width, picture.height, THUMBNAIL_EDGE),
    };
  } catch {
    return { trouble: "This is no picture this browser can open: choose a JPEG, PNG or WebP, or an MP4 clip." };
  }
}

async function drawn(source: CanvasImageSource, width: number, height: number, edge: number): Promise<Blob> {
  const scale = Math.min(1, edge / Math.max(width, height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(width * scale));
  canvas.height = Math.max(1, Math.round(height * scale));
  canvas.getContext("2d")?.drawImage(source, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error("no picture"))), "image/jpeg", QUALITY),
  );
}

const FRAME_WITHIN_MS = 5000;

/** A frame near the start of a clip; null where the browser cannot play it. */
async function frameOf(file: File): Promise<Blob | null> {
  const video = document.createElement("video");
  const url = URL.createObjectURL(file);
  try {
    video.muted = true;
    video.src = url;
    const late = AbortSignal.timeout(FRAME_WITHIN_MS);
    await new Promise<void>((resolve, reject) => {
      const give = (): void => reject(new Error("not playable"));
      late.addEventListener("abort", give, { once: true });
      video.addEventListener("error", give, { once: true });
      video.addEventListener("seeked", () => resolve(), { once: true });
      video.addEventListener("loadedmetadata", () => (video.currentTime = Math.min(0.5, video.duration / 2)), {
        once: true,
      });
    });
    return await drawn(video, video.videoWidth, video.videoHeight, THUMBNAIL_EDGE);
  } catch {
    return null;
  } finally {
    URL.revokeObjectURL(url);
  }
}
