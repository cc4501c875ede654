import "./pictures/pictures";
import "./pictures/logos";
