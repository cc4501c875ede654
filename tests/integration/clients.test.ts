import "./clients/onboarding";
import "./clients/offboarding";
import "./clients/outlook";
