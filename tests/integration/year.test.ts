import "./year/year";
import "./year/worlds";
