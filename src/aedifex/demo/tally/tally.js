#!/usr/bin/env node
// Counts who crosses the river: one line for each order, until the harbour closes.
const readline = require('readline')

let aboard = 0, waiting = 0
let carried = 0
let takings = 0
let trips = []
const CAPACITY = 6
const FARE = 2

let rain = 0
let rainy = false

const input = readline.createInterface({ input: process.stdin, output: process.stdout })

function arrive(count) {
  waiting += count
  console.log(`${count} come to the landing stage, ${waiting} wait`)
}

function board() {
  const free = CAPACITY - aboard
  const going = Math.min(free, waiting)
  waiting -= going
  aboard += going
  takings += going * fare()
  console.log(`${going} go aboard, ${aboard} of ${CAPACITY} places are taken`)
}

function fare() {
  return rainy ? FARE + 1 : FARE
}

function cross() {
  if (aboard === 0) {
    console.log('nobody is aboard')
    return
  }
  carried += aboard
  trips.push({ carried: aboard, rainy })
  console.log('the ferry crosses with ' + aboard)
  aboard = 0
}

function measure(millimetres) {
  rain += millimetres
  rainy = rain > 5
  console.log('rain', rain, rainy ? 'the deck is wet' : 'the deck is dry')
}

const dry = () => {
  rain = 0
  rainy = false
}

function report() {
  console.log('--- the day so far')
  console.log({ carried, waiting, takings })
  trips.forEach((trip, number) => console.log(`trip ${number + 1}: ${trip.carried}${trip.rainy ? ' in the rain' : ''}`))
}

function carryOut(line) {
  const [word, amount] = line.trim().split(' ')
  const count = Number(amount) || 1
  switch (word) {
    case 'come':
      arrive(count)
      break
    case 'board':
      board()
      break
    case 'cross':
      cross()
      break
    case 'rain':
      measure(count)
      break
    case 'dry':
      dry()
      break
    case 'report':
      report()
      break
    case 'close':
      report()
      input.close()
      return
    default:
      console.log('come N, board, cross, rain N, dry, report or close')
  }
  input.prompt()
}

input.setPrompt('harbour> ')
input.on('line', carryOut)
input.on('close', () => console.log('closed'))
input.prompt()
