import "./comingIn/intake";
import "./comingIn/feeds";
import "./comingIn/records";
