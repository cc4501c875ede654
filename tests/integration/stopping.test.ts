import "./stopping/stopping";
import "./stopping/crash";
import "./stopping/powerCut";
