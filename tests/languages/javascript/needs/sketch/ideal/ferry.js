class Passenger {
  constructor(x, y) {
    this.x = x;
    this.y = y;
    this.waiting = true;
  }
}

class Ferry {
  constructor() {
    this.ropeY = 150;
    this.passengers = [];
    this.tide = 0;
    this.score = 0;
  }

  setup() {
    createCanvas(400, 300);
    this.x = 20;
    this.y = this.ropeY;
    this.speedX = 2;
    for (let i = 0; i < 6; i++) this.passengers.push(new Passenger(random(width), random(200, 280)));
    textSize(14);
  }

  drawTide() {
    this.tide = sin(frameCount * 0.02) * 10;
    noStroke();
    fill(40, 90, 140);
    rect(0, 160 + this.tide, width, 140);
  }

  drawFerry() {
    this.x += this.speedX;
    if (this.x > width - 40 || this.x < 0) this.speedX = -this.speedX;
    this.y = this.ropeY + this.tide;
    fill(120, 60, 20);
    rect(this.x, this.y, 40, 15);
  }

  drawPassengers() {
    for (const passenger of this.passengers) {
      if (!passenger.waiting) continue;
      fill(200, 40, 40);
      ellipse(passenger.x, passenger.y + this.tide, 8, 8);
      if (dist(passenger.x, passenger.y, this.x, this.y) < 30) {
        passenger.waiting = false;
        this.score++;
      }
    }
  }

  draw() {
    background(180, 210, 230);
    this.drawTide();
    this.drawFerry();
    this.drawPassengers();
    fill(0);
    text("Score: " + this.score, 10, 20);
  }

  mousePressed() {
    this.speedX *= 1.2;
  }

  keyPressed() {
    if (keyCode === LEFT_ARROW) this.speedX = -abs(this.speedX);
    else if (keyCode === RIGHT_ARROW) this.speedX = abs(this.speedX);
  }
}

const ferry = new Ferry();

function setup() {
  ferry.setup();
}

function draw() {
  ferry.draw();
}

function mousePressed() {
  ferry.mousePressed();
}

function keyPressed() {
  ferry.keyPressed();
}
