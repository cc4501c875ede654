export { type Box, MOST_BYTES, NotAPicture, type Picture } from "./decode";
export { drawPicture, MOST_PICTURE_BYTES } from "./namedPicture";
export {
  BOXES,
  findImage,
  isPhotoOf,
  keepClientPicture,
  keepLogo,
  keepPhoto,
  type PicturedAt,
  readPicture,
} from "./service";
export { pictureFrom } from "./upload";
