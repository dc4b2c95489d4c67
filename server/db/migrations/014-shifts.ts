import type { Knex } from 'knex'

const START = "REPEAT('0', 64)"

/**
 * Days of crews, each with a record of who signed its report; what people are qualified for, and until when;
 * and the secret addresses of people's calendars.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`CREATE TABLE shifts (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id), crew UUID NOT NULL REFERENCES crews(id),
    day DATE NOT NULL, state VARCHAR(12) NOT NULL DEFAULT 'open', UNIQUE (project, crew, day))`)
  await db.raw(`CREATE TRIGGER shifts_id BEFORE INSERT ON shifts FOR EACH ROW
    IF EXISTS (SELECT 1 FROM chains WHERE subject = NEW.id) THEN
      SIGNAL SQLSTATE '45000' SET MYSQL_ERRNO = 31002, MESSAGE_TEXT = 'the id is of something else';
    END IF`)
  await db.raw(`CREATE TRIGGER shifts_chain AFTER INSERT ON shifts FOR EACH ROW
    BEGIN
      DECLARE EXIT HANDLER FOR 1062 SIGNAL SQLSTATE '45000' SET MYSQL_ERRNO = 31002,
      MESSAGE_TEXT = 'the id is of something else';
      INSERT INTO chains (subject, subject_type, project, seq, hash) VALUES (NEW.id, 'shift',
      NEW.project, 0, ${START});
    END`)
  await db.raw(`CREATE TABLE qualifications (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id), person UUID NOT NULL REFERENCES people(id),
    procedure_key VARCHAR(60) NOT NULL, since DATE NOT NULL, until DATE NULL, given_by VARCHAR(120) NOT NULL,
    UNIQUE (project, person, procedure_key, since))`)
  await db.raw(`CREATE TABLE calendars (
    token BINARY(32) PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id),
    person UUID NOT NULL REFERENCES people(id), made_at DATETIME(3) NOT NULL, UNIQUE (project, person))`)
}
