import "./hostile/tenancy";
import "./hostile/isolation";
import "./hostile/oddRequests";
