-- Tracks, parts, figures and other measures have no column to go back to.
SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'there is no way back from this step: restore a backup';
