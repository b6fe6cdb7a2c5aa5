// Vectors, as sketches have them.
"use strict";

class Vector {
  constructor(x = 0, y = 0, z = 0) {
    Object.assign(this, { x, y, z });
  }

  static fromAngle(angle, length = 1) {
    return new Vector(length * Math.cos(angle), length * Math.sin(angle));
  }

  static fromAngles(down, around, length = 1) {
    return new Vector(
      length * Math.sin(down) * Math.sin(around),
      -length * Math.cos(down),
      length * Math.sin(down) * Math.cos(around)
    );
  }

  static random2D() {
    return Vector.fromAngle(Math.random() * 2 * Math.PI);
  }

  static random3D() {
    return Vector.fromAngles(Math.random() * Math.PI, Math.random() * 2 * Math.PI);
  }

  set(x, y, z) {
    return Object.assign(this, ofGiven(x, y, z));
  }

  copy() {
    return new Vector(this.x, this.y, this.z);
  }

  add(x, y, z) {
    return this.each(ofGiven(x, y, z), (one, two) => one + two);
  }

  sub(x, y, z) {
    return this.each(ofGiven(x, y, z), (one, two) => one - two);
  }

  mult(x, y = x, z = x) {
    return this.each(ofGiven(x, y, z), (one, two) => one * two);
  }

  div(x, y = x, z = x) {
    return this.each(ofGiven(x, y, z), (one, two) => one / two);
  }

  rem(x, y = x, z = x) {
    return this.each(ofGiven(x, y, z), (one, two) => one % two);
  }

  each(other, worked) {
    return this.set(worked(this.x, other.x), worked(this.y, other.y), worked(this.z, other.z));
  }

  mag() {
    return Math.hypot(this.x, this.y, this.z);
  }

  magSq() {
    return this.x ** 2 + this.y ** 2 + this.z ** 2;
  }

  normalize() {
    return this.mag() ? this.div(this.mag()) : this;
  }

  setMag(length) {
    return this.normalize().mult(length);
  }

  limit(most) {
    return this.mag() > most ? this.setMag(most) : this;
  }

  heading() {
    return Math.atan2(this.y, this.x);
  }

  setHeading(angle) {
    return this.set(this.mag() * Math.cos(angle), this.mag() * Math.sin(angle), this.z);
  }

  rotate(angle) {
    return this.setHeading(this.heading() + angle);
  }

  dist(other) {
    return this.copy().sub(other).mag();
  }

  dot(x, y, z) {
    const other = ofGiven(x, y, z);
    return this.x * other.x + this.y * other.y + this.z * other.z;
  }

  cross(other) {
    return new Vector(
      this.y * other.z - this.z * other.y,
      this.z * other.x - this.x * other.z,
      this.x * other.y - this.y * other.x
    );
  }

  angleBetween(other) {
    const share = this.dot(other) / (this.mag() * other.mag());
    return Math.acos(Math.min(1, Math.max(-1, share))) * (Math.sign(this.cross(other).z) || 1);
  }

  reflect(normal) {
    const across = normal.copy().normalize();
    return this.sub(across.mult(2 * this.dot(across)));
  }

  lerp(x, y, z, part) {
    const [other, share] = x instanceof Vector ? [x, y] : [new Vector(x, y, z), part];
    return this.each(other, (one, two) => one + (two - one) * share);
  }

  slerp(other, part) {
    const turned = this.heading() + this.angleBetween(other) * part;
    return this.set(Vector.fromAngle(turned, this.mag() + (other.mag() - this.mag()) * part));
  }

  equals(x, y, z) {
    const other = ofGiven(x, y, z);
    return this.x === other.x && this.y === other.y && this.z === other.z;
  }

  array() {
    return [this.x, this.y, this.z];
  }

  toString() {
    return `vector[${this.array().join(", ")}]`;
  }
}

for (const name of "add sub mult div rem dist dot cross lerp slerp angleBetween reflect".split(" ")) {
  Vector[name] = (one, ...given) => one.copy()[name](...given);
}
for (const name of ["mag", "magSq", "heading", "normalize", "setMag", "limit", "rotate", "copy"]) {
  Vector[name] = (one, ...given) => one.copy()[name](...given);
}

/** What is given as a vector, as a list, or number by number. */
function ofGiven(x, y = 0, z = 0) {
  if (Array.isArray(x)) return { x: x[0] ?? 0, y: x[1] ?? 0, z: x[2] ?? 0 };
  return x instanceof Vector ? { x: x.x, y: x.y, z: x.z } : { x: x ?? 0, y, z };
}

module.exports = { Vector };
