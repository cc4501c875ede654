import "./plans/plans";
import "./plans/steering";
import "./plans/setup";
import "./plans/pause";
import "./plans/rehearsal";
import "./plans/foretold";
