"""The process that builds, measures and proves: rebuilding with a cache, requests and replies, worker and client."""
