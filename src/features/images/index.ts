export {
  findImage,
  keepClientLogo,
  keepLogo,
  LOGO_BOX,
  MOST_BYTES,
  NotAPicture,
  type Picture,
  readPicture,
} from "./service";
export { pictureFrom } from "./upload";
