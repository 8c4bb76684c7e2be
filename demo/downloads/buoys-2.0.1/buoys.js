// Buoys: names the buoys between two piers, by their colour and side.
var Buoys = {
  list: [
    { name: 'Gull', side: 'port', colour: '#b5472f' },
    { name: 'Heron', side: 'starboard', colour: '#2c7a4b' },
  ],
  named: function (name) {
    return this.list.find(function (buoy) {
      return buoy.name === name;
    });
  },
};
