package server_test

import _ "modernc.org/sqlite" // the database driver that the store asks for
