export { drawPicture, MOST_PICTURE_BYTES } from "./namedPicture";
export {
  BOXES,
  findImage,
  isPhotoOf,
  keepClientPicture,
  keepLogo,
  keepPhoto,
  MOST_BYTES,
  NotAPicture,
  type Picture,
  type PicturedAt,
  readPicture,
} from "./service";
export { pictureFrom } from "./upload";
