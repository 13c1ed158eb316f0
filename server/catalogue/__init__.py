"""The crew's sheets and packs over those that ship."""
