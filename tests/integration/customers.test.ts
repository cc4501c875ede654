import "./customers/customerSide";
import "./customers/customerServer";
import "./customers/followLink";
import "./customers/standingLinks";
import "./customers/openAnswers";
import "./customers/promises";
import "./customers/everyWord";
