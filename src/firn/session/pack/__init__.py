"""The student's pack: one page that opens from a phone's storage, without network, account or Firn."""
