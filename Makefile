test:
	cargo test --locked --workspace
.PHONY: test
