let x, y, speedX;
let ropeY = 150;
let passengers = [];
let tide = 0;
let score = 0;

function setup() {
  createCanvas(400, 300);
  x = 20;
  y = ropeY;
  speedX = 2;
  for (let i = 0; i < 6; i++) {
    passengers.push({ x: random(width), y: random(200, 280), waiting: true });
  }
  textSize(14);
}

function draw() {
  background(180, 210, 230);

  // the tide
  tide = sin(frameCount * 0.02) * 10;
  noStroke();
  fill(40, 90, 140);
  rect(0, 160 + tide, width, 140);

  // the ferry
  x += speedX;
  if (x > width - 40 || x < 0) {
    speedX = -speedX;
  }
  y = ropeY + tide;
  fill(120, 60, 20);
  rect(x, y, 40, 15);

  // the passengers
  for (let i = 0; i < passengers.length; i++) {
    if (passengers[i].waiting) {
      fill(200, 40, 40);
      ellipse(passengers[i].x, passengers[i].y + tide, 8, 8);
      if (dist(passengers[i].x, passengers[i].y, x, y) < 30) {
        passengers[i].waiting = false;
        score++;
      }
    }
  }

  // the score
  fill(0);
  text("Score: " + score, 10, 20);
}

function mousePressed() {
  speedX *= 1.2;
}

function keyPressed() {
  if (keyCode === LEFT_ARROW) {
    speedX = -abs(speedX);
  } else if (keyCode === RIGHT_ARROW) {
    speedX = abs(speedX);
  }
}
