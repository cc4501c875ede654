import "./scale/scale";
import "./scale/pages";
