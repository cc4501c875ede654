import "./sending/bounces";
import "./sending/receipts";
import "./sending/outage";
import "./sending/events";
import "./sending/budgets";
