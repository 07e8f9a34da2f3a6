"""What Firn is measured by: `./run bench` prints it."""
