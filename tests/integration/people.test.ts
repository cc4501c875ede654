import "./people/people";
import "./people/personal";
import "./people/forgetting";
import "./people/interleaving";
