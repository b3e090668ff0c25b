-- What holds time in the book, lines that last, and what hangs on a date apart from the setup.

-- Sessions end in the database; nothing reads the stamp of an account any more.
ALTER TABLE staff DROP COLUMN stamp;
