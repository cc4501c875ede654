import "./conversations/conversations";
import "./conversations/concernOwners";
