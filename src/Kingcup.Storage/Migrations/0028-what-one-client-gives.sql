-- What one client gives when they book, before whatever is asked at a service, a category or a location; null for what holds for everybody.
ALTER TABLE client
    ADD COLUMN gives text CHECK (gives IN ('Nothing', 'Card', 'Fixed', 'Percent', 'All')),
    -- Minor units of a fixed amount, whole percent.
    ADD COLUMN gives_value bigint NOT NULL DEFAULT 0,
    ADD CHECK (CASE gives WHEN 'Fixed' THEN gives_value BETWEEN 1 AND 100000000 WHEN 'Percent' THEN gives_value BETWEEN 1 AND 100
        ELSE gives_value = 0 END);
