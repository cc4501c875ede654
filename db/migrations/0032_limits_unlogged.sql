-- Counts of the last minutes are written with every page that is open to all, and may go when a server falls: no write
-- of them waits for the disk.
ALTER TABLE "rate_limits" SET UNLOGGED;
