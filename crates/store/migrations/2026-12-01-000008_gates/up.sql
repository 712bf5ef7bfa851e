-- The remark that is accepted where it is not the figure itself, and the kind of place that a target is for.
ALTER TABLE concessions ADD COLUMN IF NOT EXISTS gate VARCHAR(24) NULL;
ALTER TABLE target_changes ADD COLUMN IF NOT EXISTS place_kind VARCHAR(24) NULL;
