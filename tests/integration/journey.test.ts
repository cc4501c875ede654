import "./journey/journey";
import "./journey/weeks";
