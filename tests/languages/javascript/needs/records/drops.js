// Raindrops that fall into the gauge.
const canvas = document.createElement("canvas");
canvas.width = 400;
canvas.height = 300;
document.body.appendChild(canvas);
const ctx = canvas.getContext("2d");

const drops = [];
const gauge = { x: 150, width: 100, level: 0, full: false };
let frame = 0;

function addDrop() {
  drops.push({ x: Math.random() * 400, y: 0, speed: 1 + Math.random() * 3, size: 2 });
}

function moveDrop(drop) {
  drop.y += drop.speed;
  if (drop.y > 300) {
    if (drop.x > gauge.x && drop.x < gauge.x + gauge.width) {
      gauge.level += drop.size;
      if (gauge.level > 80) {
        gauge.full = true;
      }
    }
    return false;
  }
  return true;
}

function drawDrop(drop) {
  ctx.fillStyle = "#48c";
  ctx.fillRect(drop.x, drop.y, drop.size, drop.size * 3);
}

function drawGauge() {
  ctx.strokeStyle = gauge.full ? "red" : "black";
  ctx.strokeRect(gauge.x, 200, gauge.width, 100);
  ctx.fillStyle = "#48c";
  ctx.fillRect(gauge.x, 300 - gauge.level, gauge.width, gauge.level);
}

function emptyGauge() {
  gauge.level = 0;
  gauge.full = false;
}

function tick() {
  frame++;
  ctx.clearRect(0, 0, 400, 300);
  if (frame % 5 === 0) addDrop();
  for (let i = drops.length - 1; i >= 0; i--) {
    if (!moveDrop(drops[i])) {
      drops.splice(i, 1);
    }
  }
  for (const drop of drops) {
    drawDrop(drop);
  }
  drawGauge();
  requestAnimationFrame(tick);
}

window.addEventListener("click", emptyGauge);
requestAnimationFrame(tick);
