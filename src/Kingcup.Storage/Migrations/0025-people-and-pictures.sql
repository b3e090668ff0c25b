-- How many people may come to one visit that is booked online.
ALTER TABLE business ADD COLUMN most_people_online int NOT NULL DEFAULT 1 CHECK (most_people_online BETWEEN 1 AND 4);

-- The pictures of the business on the booking page, in order.
CREATE TABLE business_picture (
    place smallint PRIMARY KEY CHECK (place BETWEEN 0 AND 3),
    picture_id uuid NOT NULL UNIQUE REFERENCES stored_file,
    -- What is to be seen, for whoever cannot see it.
    words text NOT NULL CHECK (length(words) BETWEEN 1 AND 200 AND words = btrim(words))
);
