import "./heard/heard";
import "./heard/heardPage";
import "./heard/replyRules";
import "./heard/reviewImport";
import "./heard/textService";
import "./heard/told";
import "./heard/notices";
import "./heard/themes";
