// While the pages are served anew at each change, the application that runs answers their calls.
export default {
  '/api': { target: process.env.COFFER_ADDRESS, changeOrigin: true },
};
