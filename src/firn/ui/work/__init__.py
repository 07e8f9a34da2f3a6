"""What the window does: dancing, pieces and parts, takes, workbooks."""
