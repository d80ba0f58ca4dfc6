/** Rust pitting as a kind of damage; the height of the lift wing at the tip as a quantity. */
export const rustAndWingHeight = {
  name: '0012-rust-and-wing-height',
  up: [
    "INSERT INTO damageKind (key) VALUES ('rust-pitting')",
    "INSERT INTO quantity (key) VALUES ('wing-height')",
  ],
};
