import { z } from "zod";
import { idSchema } from "../../record/events";
import { mediaIdSchema, mediaQuerySchema } from "../bodies";
import { mediaViewSchema } from "../views-of-records";
import { endpoint } from "./endpoint";

const horse = { horse: idSchema };
const MEDIA_TYPES = "image/jpeg, image/png, image/webp, video/mp4, video/quicktime, audio/webm or audio/mp4";

/** Photos, clips and voice notes. */
export const OF_MEDIA = {
  media: endpoint({
    method: "get",
    path: "/horses/{horse}/media",
    says: "Its photos and clips.",
    parameters: horse,
    answers: { 200: z.array(mediaViewSchema) },
    refuses: [404],
  }),
  addMedia: endpoint({
    method: "put",
    path: "/horses/{horse}/media/{media}",
    says: `Stores a photo or clip: ${MEDIA_TYPES}. The type is proven by its content, position and other hidden data are taken out.`,
    parameters: { ...horse, media: mediaIdSchema },
    query: mediaQuerySchema,
    body: { type: "*/*" },
    answers: { 200: mediaViewSchema, 201: mediaViewSchema },
    refuses: [404, 409, 415, 422],
  }),
  mediaContent: endpoint({
    method: "get",
    path: "/media/{media}",
    says: "The photo or clip; ranges are honoured.",
    parameters: { media: mediaIdSchema },
    answers: { 200: "*/*", 206: "*/*" },
    refuses: [404, 416],
  }),
  thumbnail: endpoint({
    method: "get",
    path: "/media/{media}/thumbnail",
    says: "A small picture of it.",
    parameters: { media: mediaIdSchema },
    answers: { 200: "image/jpeg" },
    refuses: [404],
  }),
  addThumbnail: endpoint({
    method: "put",
    path: "/media/{media}/thumbnail",
    says: "Stores a small picture of it, once.",
    parameters: { media: mediaIdSchema },
    body: { type: "image/jpeg" },
    answers: { 200: mediaViewSchema, 201: mediaViewSchema },
    refuses: [404, 415, 422],
  }),
};
