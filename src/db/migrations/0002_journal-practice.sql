ALTER TABLE "journal" DROP CONSTRAINT "journal_practice_id_practice_id_fk";
