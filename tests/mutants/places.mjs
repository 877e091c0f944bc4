// Where mistakes are put in, and the tests of that place.
const core = (...classes) => ({ project: 'Core', classes });
const server = (...classes) => ({ project: 'Server', classes });

export const places = [
  {
    name: 'conditions',
    files: ['src/Sexton.Core/Conditions', 'src/Sexton.Core/Facts', 'src/Sexton.Core/Asking'],
    tests: core(
      'ConditionTests',
      'RefusedByRuleTests',
      'AskingTests',
      'CartTests',
      'PropertyTests',
      'PricedPropertyTests',
      'CodeTests',
      'OfferTests',
    ),
  },
  {
    name: 'prices',
    files: ['src/Sexton.Core/Pricing', 'src/Sexton.Core/Projections/ShownPrices.cs', 'src/Sexton.Core/Values/Exact.cs'],
    tests: core('PricingTests', 'PriceReferenceTests', 'TakingOffTests', 'PropertyTests', 'PricedPropertyTests', 'MoneyTests'),
  },
  {
    name: 'codes',
    files: ['src/Sexton.Core/Codes', 'src/Sexton.Core/Components'],
    tests: core('CodeTests', 'CodeClashTests', 'PricingTests', 'PropertyTests', 'PricedPropertyTests'),
  },
  {
    name: 'routing',
    files: [
      'src/Sexton.Core/Routing',
      'src/Sexton.Core/Register/Routes.cs',
      'src/Sexton.Core/Projections/Projection.cs',
      'src/Sexton.Core/Checks/NotTakenThere.cs',
    ],
    tests: core('RoutingTests', 'DestinationTests', 'RegisterTests', 'TrailTests'),
  },
  {
    name: 'trail',
    files: ['src/Sexton.Core/Trail', 'src/Sexton.Core/Orders', 'src/Sexton.Destinations'],
    tests: server('ArtefactTests', 'ForeignKindTests', 'RoundTripTests', 'ConnectionTests', 'TrailTests', 'LaneTests', 'RoutingTests'),
    alsoCore: true,
  },
  {
    name: 'placing',
    files: [
      'src/Sexton.Data/Placing/OrderPlacer.cs',
      'src/Sexton.Data/Placing/StoredAnswer.cs',
      'src/Sexton.Data/Placing/StoredPrice.cs',
      'src/Sexton.Server/Attempts',
    ],
    tests: server('PlacingTests', 'RoundTripTests', 'StockTests', 'PriceTests', 'SealingTests'),
  },
  {
    name: 'queue',
    files: ['src/Sexton.Data/Queue', 'src/Sexton.Server/Deliveries'],
    tests: server('QueueTests', 'DeliveryTests', 'PoisonTests', 'SealingTests'),
  },
  { name: 'stock', files: ['src/Sexton.Data/Placing/StockReservations.cs'], tests: server('StockTests', 'PlacingTests') },
  {
    name: 'files',
    files: ['src/Sexton.Data/Files', 'src/Sexton.Server/Files', 'src/Sexton.Core/Files'],
    tests: server('FileTests'),
    alsoCore: true,
  },
  {
    name: 'versions',
    files: ['src/Sexton.Server/Versions', 'src/Sexton.Server/Publishing', 'src/Sexton.Server/Fields'],
    tests: server('DraftTests', 'UndoTests', 'CurrentTests', 'PriceTests', 'ForeignKindTests', 'AskingTests'),
  },
  { name: 'products', files: ['src/Sexton.Core/Catalogue/Brought'], tests: core('ProductsBroughtTests') },
  { name: 'putting back', files: ['src/Sexton.Core/Register/ClauseBack.cs'], tests: core('ClauseBackTests') },
  { name: 'the cart', files: ['src/Sexton.Core/Cart'], tests: core('CartTests', 'EachOneTests', 'PropertyTests', 'AskingTests') },
  {
    name: 'papers',
    files: ['src/Sexton.Destinations/Papers', 'src/Sexton.Server/Papers', 'src/Sexton.Server/Deliveries/PapersAlong.cs'],
    tests: server('PaperTests', 'PrintedTests', 'PrinterTests', 'CarriedTests', 'IssuedTests'),
  },
  {
    name: 'invoices',
    files: ['src/Sexton.Data/Invoices', 'src/Sexton.Destinations/Invoices', 'src/Sexton.Server/Deliveries/InvoiceIssuer.cs'],
    tests: server('IssuedTests', 'InvoiceNumberTests', 'PaperTests'),
  },
  { name: 'what invoices come to', files: ['src/Sexton.Core/Invoicing'], tests: core('InvoiceTests') },
  {
    name: 'events and dropped files',
    files: ['src/Sexton.Destinations/Events', 'src/Sexton.Destinations/Drop', 'src/Sexton.Destinations/Sales'],
    tests: server('EventTests', 'DropTests', 'DropFormatTests', 'WrittenWholeTests'),
  },
];
