from firn.cli import main

raise SystemExit(main())
