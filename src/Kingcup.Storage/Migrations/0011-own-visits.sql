-- Whether a practitioner says of their own visits where they stand: arrived, in treatment, done, did not come.
ALTER TABLE staff ADD COLUMN keeps_own_visits boolean NOT NULL DEFAULT false;
