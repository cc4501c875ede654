export { DEMO_PASSWORD, DEMO_SEATS, demoSeat } from "./demoSeats";
export { CLIENT_PLACES, firstPlace, startOf } from "./start";
