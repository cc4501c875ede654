import "./clients/onboarding";
import "./clients/senders";
import "./clients/offboarding";
import "./clients/outlook";
import "./clients/remembered";
