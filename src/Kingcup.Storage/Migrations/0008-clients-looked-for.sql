-- A client who is to go is looked for at every place that names them. Without these each one means reading all visits there ever were.
CREATE INDEX ON visit (payer_id);
CREATE INDEX ON visit_person (client_id) WHERE client_id IS NOT NULL;
