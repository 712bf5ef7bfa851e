-- Thrust washers lie on the same shelf as shells, counted and moved alike; what is known of them is another document.
ALTER TABLE shell_families ADD COLUMN IF NOT EXISTS kind VARCHAR(10) CHARACTER SET ascii NOT NULL DEFAULT 'shells';
