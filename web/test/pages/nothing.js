// what a style sheet is to a test
module.exports = {}
