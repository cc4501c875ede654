export { DEMO_PASSWORD, DEMO_SEATS, demoSeat } from "./demoSeats";
