"""python -m tests [WORDS …]: see tests/shards.py."""

import sys

from tests.shards import main

if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
