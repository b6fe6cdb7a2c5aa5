// Raindrops that fall into the gauge.
class Gauge {
  constructor() {
    this.x = 150;
    this.width = 100;
    this.level = 0;
    this.full = false;
    this.empty = this.empty.bind(this);
  }

  isAbove(x) {
    return x > this.x && x < this.x + this.width;
  }

  catch(drop) {
    if (!this.isAbove(drop.x)) return;
    this.level += drop.size;
    if (this.level > 80) this.full = true;
  }

  draw(ctx) {
    ctx.strokeStyle = this.full ? "red" : "black";
    ctx.strokeRect(this.x, 200, this.width, 100);
    ctx.fillStyle = "#48c";
    ctx.fillRect(this.x, 300 - this.level, this.width, this.level);
  }

  empty() {
    this.level = 0;
    this.full = false;
  }
}

class Drop {
  constructor(x, speed) {
    this.x = x;
    this.y = 0;
    this.speed = speed;
    this.size = 2;
  }

  fall() {
    this.y += this.speed;
    return this.y <= 300;
  }

  draw(ctx) {
    ctx.fillStyle = "#48c";
    ctx.fillRect(this.x, this.y, this.size, this.size * 3);
  }
}

class Drops {
  constructor() {
    const canvas = document.createElement("canvas");
    canvas.width = 400;
    canvas.height = 300;
    document.body.appendChild(canvas);
    this.ctx = canvas.getContext("2d");
    this.drops = [];
    this.gauge = new Gauge();
    this.frame = 0;
    this.tick = this.tick.bind(this);
  }

  tick() {
    this.frame++;
    this.ctx.clearRect(0, 0, 400, 300);
    if (this.frame % 5 === 0) this.drops.push(new Drop(Math.random() * 400, 1 + Math.random() * 3));
    for (let i = this.drops.length - 1; i >= 0; i--) {
      if (!this.drops[i].fall()) {
        this.gauge.catch(this.drops[i]);
        this.drops.splice(i, 1);
      }
    }
    for (const drop of this.drops) drop.draw(this.ctx);
    this.gauge.draw(this.ctx);
    requestAnimationFrame(this.tick);
  }

  run() {
    window.addEventListener("click", this.gauge.empty);
    requestAnimationFrame(this.tick);
  }
}

new Drops().run();
