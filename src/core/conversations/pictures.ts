/** What customers may send beside their words. */

/** At most so many pictures are kept of one message. */
export const MOST_PICTURES = 6;

/** Why a picture is not here: it is none, it is too large, or the gateway no longer has it. */
const PICTURE_REFUSALS = ["not a picture", "too large", "not there"] as const;
export type PictureRefusal = (typeof PICTURE_REFUSALS)[number];
