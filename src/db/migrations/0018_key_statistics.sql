-- ANALYZE copies values of a column into the catalogue, where a destroyed key would live on: of this one it takes none, and
-- what it took before is dropped with the column's "new" type.
ALTER TABLE "client_key" ALTER COLUMN "sealed" SET STATISTICS 0;--> statement-breakpoint
ALTER TABLE "client_key" ALTER COLUMN "sealed" SET DATA TYPE bytea;
